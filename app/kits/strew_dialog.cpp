#include "kits/strew_dialog.h"

#include <cmath>

#include <QDialogButtonBox>
#include <QFormLayout>
#include <QGroupBox>
#include <QScrollArea>
#include <QVBoxLayout>

#include "kits/piece_picture.h"
#include "numbers.h"

namespace rubble::app {

namespace {

constexpr QSize k_picture{32, 32};

} // namespace

QDoubleSpinBox* StrewDialog::add_number(QFormLayout& form, const QString& name, double low, double high,
                                        double value, double step, const QString& unit) {
    auto* box = new QDoubleSpinBox;
    box->setRange(low, high);
    box->setSingleStep(step);
    box->setValue(value);
    if (!unit.isEmpty()) box->setSuffix(' ' + unit);
    box->setAccessibleName(name);
    form.addRow(name, box);
    connect(box, &QDoubleSpinBox::valueChanged, this, &StrewDialog::changed);
    return box;
}

StrewDialog::StrewDialog(const Project& project, const std::string& chosen_kit,
                         const std::string& chosen_piece, double area_m2, QWidget* parent)
    : QDialog(parent),
      area_m2_(area_m2) {
    setWindowTitle(tr("Strew props"));
    auto* column = new QVBoxLayout(this);
    auto* inside = new QWidget;
    auto* props = new QFormLayout(inside);
    for (const auto& kit : project.kits)
        for (const auto& piece : kit->pieces) {
            if (piece->seat != PieceSeat::free) continue;
            const QString name = QString::fromStdString(piece->name);
            auto* weight = new QSpinBox;
            weight->setRange(0, 100);
            weight->setSpecialValueText(tr("none"));
            weight->setValue(kit->file == chosen_kit && piece->id == chosen_piece ? 1 : 0);
            weight->setAccessibleName(tr("How often: %1").arg(name));
            auto* title = new QLabel(name);
            if (piece->body) {
                auto* line = new QWidget;
                auto* row = new QHBoxLayout(line);
                row->setContentsMargins(0, 0, 0, 0);
                auto* picture = new QLabel;
                picture->setPixmap(QPixmap::fromImage(picture_of(piece->body->model, project, k_picture)));
                row->addWidget(picture);
                row->addWidget(title, 1);
                props->addRow(line, weight);
            } else {
                props->addRow(title, weight);
            }
            connect(weight, &QSpinBox::valueChanged, this, &StrewDialog::changed);
            rows_.push_back({{kit->file, piece->id, 0}, weight});
        }
    // One is strewn to begin with.
    if (std::none_of(rows_.begin(), rows_.end(), [](const Row& row) { return row.weight->value() > 0; }) &&
        !rows_.empty())
        rows_[0].weight->setValue(1);
    auto* scroll = new QScrollArea;
    scroll->setWidget(inside);
    scroll->setWidgetResizable(true);
    scroll->setAccessibleName(tr("Props, and how often each"));
    column->addWidget(scroll, 1);
    auto* form = new QFormLayout;
    per_m2_ = add_number(*form, tr("To the square metre"), 0.01, 50, 0.5, 0.1, {});
    apart_ = add_number(*form, tr("Apart at least"), 0, 50, 0.8, 0.1, tr("m"));
    smallest_ = add_number(*form, tr("Sized from"), least_sized, most_sized, 0.9, 0.05, {});
    largest_ = add_number(*form, tr("to"), least_sized, most_sized, 1.1, 0.05, {});
    seed_ = new QSpinBox;
    seed_->setRange(1, 1000000);
    seed_->setAccessibleName(tr("Seed"));
    seed_->setToolTip(tr("Another number strews otherwise"));
    form->addRow(tr("Seed"), seed_);
    connect(seed_, &QSpinBox::valueChanged, this, &StrewDialog::changed);
    turned_ = new QCheckBox(tr("Each turned its own way"));
    leans_ = new QCheckBox(tr("Leaning with the ground"));
    for (QCheckBox* box : {turned_, leans_}) {
        box->setChecked(true);
        box->setAccessibleName(box->text());
        form->addRow(box);
        connect(box, &QCheckBox::toggled, this, &StrewDialog::changed);
    }
    column->addLayout(form);
    count_ = new QLabel;
    column->addWidget(count_);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel);
    buttons->button(QDialogButtonBox::Ok)->setText(tr("Strew"));
    connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    column->addWidget(buttons);
}

edit::Strewing StrewDialog::strewing() const {
    edit::Strewing out;
    for (const Row& row : rows_)
        if (row.weight->value() > 0) {
            out.kinds.push_back(row.kind);
            out.kinds.back().weight = uint64_t(row.weight->value());
        }
    out.seed = uint64_t(seed_->value());
    out.per_m2 = per_m2_->value(), out.least_apart_m = apart_->value();
    out.least_sized = std::min(smallest_->value(), largest_->value());
    out.most_sized = std::max(smallest_->value(), largest_->value());
    out.turned = turned_->isChecked(), out.leans = leans_->isChecked();
    return out;
}

void StrewDialog::show_count(int strewn) {
    const auto wanted = int(std::lround(per_m2_->value() * area_m2_));
    QString text =
        tr("%1 on %2 m²")
            .arg(counted(strewn, tr("prop"), tr("props")), plain_number(std::round(area_m2_ * 10) / 10));
    if (strewn < wanted) text += '\n' + tr("No room for %1 more at this distance").arg(wanted - strewn);
    count_->setText(text);
}

} // namespace rubble::app
