#pragma once

#include <QComboBox>
#include <QDialog>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QSpinBox>
#include <QTableWidget>

#include "level/element_kinds.h"
#include "level/level.h"

namespace rubble::app {

/// The kinds of elements of a project: those that it makes itself, with sign, role, values, the kind that
/// they act as, and limits; and limits to those that every project has.
class ElementKindsDialog : public QDialog {
    Q_OBJECT
public:
    explicit ElementKindsDialog(const Project& project, QWidget* parent = nullptr);

    /// The project's rows as they were changed.
    std::vector<std::shared_ptr<const ElementKind>> kinds();

private:
    QWidget* build_form();
    void fill_list(int chosen);
    void show_kind();
    void keep();
    void add_kind();
    void remove_kind();
    void fill_fields(const std::vector<ElementField>& fields);
    std::vector<ElementField> fields_shown() const;
    bool is_own(int row) const { return row >= 0 && !kinds_[size_t(row)].name.empty(); }

    std::vector<ElementKind> kinds_; ///< own ones, then all others
    int shown_ = -1;
    QListWidget* list_;
    QLineEdit* name_;
    QComboBox *acts_as_, *role_, *sign_;
    QSpinBox *at_least_, *at_most_;
    QTableWidget* fields_;
    QPushButton *more_, *fewer_, *remove_;
};

} // namespace rubble::app
