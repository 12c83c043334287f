#pragma once

#include <QCheckBox>
#include <QDialog>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QSpinBox>

#include "edit/props.h"

namespace rubble::app {

/// What is strewn over an area, with how many come out of it; each change is shown at once by who opened it.
class StrewDialog : public QDialog {
    Q_OBJECT
public:
    /// The project's props with a weight each; `chosen` begins with one.
    StrewDialog(const Project& project, const std::string& chosen_kit, const std::string& chosen_piece,
                double area_m2, QWidget* parent = nullptr);

    edit::Strewing strewing() const;
    /// Says how many were strewn of those that were wanted.
    void show_count(int strewn);

signals:
    void changed();

private:
    struct Row {
        edit::Strewing::Kind kind;
        QSpinBox* weight;
    };
    QDoubleSpinBox* add_number(class QFormLayout& form, const QString& name, double low, double high,
                               double value, double step, const QString& unit);

    std::vector<Row> rows_;
    double area_m2_;
    QDoubleSpinBox *per_m2_, *apart_, *smallest_, *largest_;
    QSpinBox* seed_;
    QCheckBox *turned_, *leans_;
    QLabel* count_;
};

} // namespace rubble::app
