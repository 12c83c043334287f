#pragma once

#include <array>
#include <map>

#include <QCheckBox>
#include <QComboBox>
#include <QDialog>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QTableWidget>
#include <QTimer>
#include <QToolButton>

#include "casts/area_view.h"
#include "casts/caster.h"
#include "session/session.h"

namespace rubble::app {

/// What a level is cast by, and a row of casts by it with their plans and numbers. They are made anew as soon
/// as anything changes; a click takes one.
class CastDialog : public QDialog {
    Q_OBJECT
public:
    static constexpr int shown = 8;

    explicit CastDialog(const Session& session, QWidget* parent = nullptr);

    /// The one that was taken; null where none was.
    std::shared_ptr<const cast::Cast> taken() const { return taken_; }
    const cast::Rules& rules() const { return rules_; }
    /// Whether all that were asked for have come.
    bool is_complete() const { return come_ == shown; }

private:
    QWidget* build_parts();
    QWidget* build_area();
    QWidget* build_settings();
    QWidget* build_row();
    QSpinBox* add_number(class QFormLayout& form, const QString& name, int least, int most);
    void open_rules(int index);
    void show_rules();
    void show_parts();
    void add_part_row(int row);
    void take_settings();
    void cast_anew();
    void show_outcome(const CastOutcome& outcome);
    void keep_rules();
    std::filesystem::path rules_folder() const;

    const Session& session_;
    cast::Rules rules_;
    Caster caster_;
    QTimer soon_;
    uint64_t request_ = 0, first_seed_ = 1;
    int come_ = 0;
    bool showing_ = false;
    std::array<CastOutcome, shown> outcomes_;
    std::shared_ptr<const cast::Cast> taken_;

    QComboBox *known_ = nullptr, *form_ = nullptr;
    QTableWidget* parts_ = nullptr;
    AreaView* area_ = nullptr;
    QSpinBox *columns_ = nullptr, *rows_ = nullptr, *storeys_ = nullptr, *count_ = nullptr, *away_ = nullptr,
             *seed_ = nullptr;
    std::array<QSpinBox*, 3> low_{};
    QSpinBox *loops_ = nullptr, *dead_ends_ = nullptr;
    QCheckBox* open_ = nullptr;
    QLabel* said_ = nullptr;
    std::array<QToolButton*, shown> cards_{};
};

} // namespace rubble::app
