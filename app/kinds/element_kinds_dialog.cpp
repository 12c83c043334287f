#include "kinds/element_kinds_dialog.h"

#include <algorithm>
#include <array>
#include <cctype>
#include <cmath>

#include <QDialogButtonBox>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QPainter>
#include <QVBoxLayout>

#include "element_names.h"
#include "view/overlay.h"

namespace rubble::app {

namespace {

enum Column { key, type, unit, least, most, usual, choices, columns };

constexpr std::array k_types{FieldType::number, FieldType::flag,   FieldType::choice, FieldType::text,
                             FieldType::size,   FieldType::places, FieldType::items,  FieldType::color};

QString type_name(FieldType type) {
    switch (type) {
    case FieldType::number:
        return ElementKindsDialog::tr("number");
    case FieldType::flag:
        return ElementKindsDialog::tr("yes or no");
    case FieldType::choice:
        return ElementKindsDialog::tr("choice");
    case FieldType::text:
        return ElementKindsDialog::tr("text");
    case FieldType::size:
        return ElementKindsDialog::tr("size");
    case FieldType::velocity:
        break;
    case FieldType::places:
        return ElementKindsDialog::tr("way");
    case FieldType::items:
        return ElementKindsDialog::tr("switches");
    case FieldType::color:
        return ElementKindsDialog::tr("colour");
    }
    return {};
}

QString role_name(Role role) {
    switch (role) {
    case Role::start:
        return ElementKindsDialog::tr("start");
    case Role::goal:
        return ElementKindsDialog::tr("goal");
    case Role::thing:
        return ElementKindsDialog::tr("to be got to");
    case Role::device:
        return ElementKindsDialog::tr("takes part in play");
    case Role::place:
        return ElementKindsDialog::tr("a place");
    case Role::note:
        return ElementKindsDialog::tr("a note");
    }
    return {};
}

QString title_of(const ElementKind& kind) {
    if (!kind.name.empty()) return QString::fromStdString(kind.name);
    for (const ElementName& name : element_names())
        if (kind.key == name.kind) return name.label();
    return QString::fromStdString(kind.key);
}

QIcon sign_picture(const ElementKind& kind) {
    QPixmap picture(40, 40);
    picture.fill(Qt::transparent);
    QPainter painter(&picture);
    draw_element(painter, {20, 28}, kind, false);
    return picture;
}

/// A key that no kind has, from a name.
std::string key_from(const QString& name, const std::vector<ElementKind>& kinds) {
    std::string key;
    for (const char c : name.toLower().toStdString())
        key += std::isalnum(static_cast<unsigned char>(c)) ? c : '_';
    if (key.empty()) key = "kind";
    const auto taken = [&](const std::string& one) {
        return std::any_of(kinds.begin(), kinds.end(),
                           [&](const ElementKind& kind) { return kind.key == one; });
    };
    std::string out = key;
    for (int i = 2; taken(out); ++i) out = key + "_" + std::to_string(i);
    return out;
}

} // namespace

ElementKindsDialog::ElementKindsDialog(const Project& project, QWidget* parent) : QDialog(parent) {
    setWindowTitle(tr("Kinds of elements"));
    for (const auto& kind : project.element_kinds)
        if (!kind->name.empty()) kinds_.push_back(*kind);
    for (const ElementKind& usual : element_kinds()) {
        kinds_.push_back(usual);
        for (const auto& kind : project.element_kinds)
            if (kind->key == usual.key) kinds_.back() = *kind;
    }
    list_ = new QListWidget;
    list_->setAccessibleName(tr("Kinds"));
    auto* add = new QPushButton(tr("New kind"));
    remove_ = new QPushButton(tr("Remove"));
    connect(add, &QPushButton::clicked, this, &ElementKindsDialog::add_kind);
    connect(remove_, &QPushButton::clicked, this, &ElementKindsDialog::remove_kind);
    auto* left = new QVBoxLayout;
    left->addWidget(list_, 1);
    left->addWidget(add), left->addWidget(remove_);
    auto* both = new QHBoxLayout;
    both->addLayout(left, 1), both->addWidget(build_form(), 3);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel);
    connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    auto* column = new QVBoxLayout(this);
    column->addLayout(both, 1), column->addWidget(buttons);
    connect(list_, &QListWidget::currentRowChanged, this, [this] {
        keep();
        show_kind();
    });
    fill_list(0);
    resize(fontMetrics().averageCharWidth() * 130, fontMetrics().height() * 30);
}

QWidget* ElementKindsDialog::build_form() {
    auto* form = new QWidget;
    auto* rows = new QFormLayout(form);
    name_ = new QLineEdit, acts_as_ = new QComboBox, role_ = new QComboBox, sign_ = new QComboBox;
    at_least_ = new QSpinBox, at_most_ = new QSpinBox, fields_ = new QTableWidget(0, columns);
    acts_as_->addItem(tr("nothing"), QString());
    for (const ElementKind& kind : element_kinds())
        acts_as_->addItem(title_of(kind), QString::fromStdString(kind.key));
    for (int role = 0; role <= int(Role::note); ++role) role_->addItem(role_name(Role(role)), role);
    for (size_t i = 0; i < sign_keys().size(); ++i) {
        ElementKind with_sign;
        with_sign.sign = Sign(i), with_sign.role = Role::device;
        sign_->addItem(sign_picture(with_sign), QString::fromUtf8(sign_keys()[i]));
    }
    at_least_->setRange(0, 1'000'000), at_most_->setRange(-1, 1'000'000);
    at_most_->setSpecialValueText(tr("any number"));
    rows->addRow(tr("Name"), name_);
    rows->addRow(tr("Acts as"), acts_as_);
    rows->addRow(tr("Is"), role_);
    rows->addRow(tr("Sign"), sign_);
    rows->addRow(tr("At least in a level"), at_least_);
    rows->addRow(tr("At most in a level"), at_most_);
    fields_->setHorizontalHeaderLabels({tr("Value"), tr("Type"), tr("Unit"), tr("Least"), tr("Most"),
                                        tr("Usual"), tr("Choices, by commas")});
    fields_->setAccessibleName(tr("Values"));
    fields_->horizontalHeader()->setStretchLastSection(true);
    fields_->verticalHeader()->hide();
    more_ = new QPushButton(tr("Add a value")), fewer_ = new QPushButton(tr("Remove the value"));
    connect(more_, &QPushButton::clicked, this, [this] {
        std::vector<ElementField> fields = fields_shown();
        fields.push_back(
            {"value" + std::to_string(fields.size() + 1), FieldType::number, "", 0, 100, 0, {}, Vec3(1), ""});
        fill_fields(fields);
    });
    connect(fewer_, &QPushButton::clicked, this, [this] {
        if (fields_->currentRow() >= 0) fields_->removeRow(fields_->currentRow());
    });
    auto* own = new QHBoxLayout;
    own->addWidget(more_), own->addWidget(fewer_), own->addStretch(1);
    rows->addRow(fields_);
    rows->addRow(own);
    connect(name_, &QLineEdit::textEdited, this, [this](const QString& name) {
        if (is_own(shown_)) list_->item(shown_)->setText(name);
    });
    // What it acts as brings its own values and sign along.
    connect(acts_as_, &QComboBox::activated, this, [this](int index) {
        const ElementKind& like = kind_of(acts_as_->itemData(index).toString().toStdString());
        if (like.key.empty()) return;
        role_->setCurrentIndex(int(like.role)), sign_->setCurrentIndex(int(like.sign));
    });
    return form;
}

void ElementKindsDialog::fill_list(int chosen) {
    shown_ = -1;
    const QSignalBlocker blocker(list_);
    list_->clear();
    for (const ElementKind& kind : kinds_) {
        auto* row = new QListWidgetItem(sign_picture(kind), title_of(kind), list_);
        if (kind.at_most >= 0 || kind.at_least > 0) row->setText(tr("%1 (limited)").arg(row->text()));
    }
    list_->setCurrentRow(chosen);
    show_kind();
}

void ElementKindsDialog::show_kind() {
    shown_ = list_->currentRow();
    if (shown_ < 0) return;
    const ElementKind& kind = kinds_[size_t(shown_)];
    const bool own = is_own(shown_);
    name_->setText(title_of(kind));
    acts_as_->setCurrentIndex(std::max(0, acts_as_->findData(QString::fromStdString(kind.acts_as))));
    role_->setCurrentIndex(int(kind.role)), sign_->setCurrentIndex(int(kind.sign));
    at_least_->setValue(kind.at_least), at_most_->setValue(kind.at_most);
    std::vector<ElementField> fields = kind.fields;
    if (!kind.acts_as.empty()) // those of what it acts as are its own anyway
        std::erase_if(fields, [&](const ElementField& field) {
            const ElementField* same = kind_of(kind.acts_as).field(field.key);
            return same && *same == field;
        });
    fill_fields(fields);
    const std::initializer_list<QWidget*> of_own{name_,   acts_as_, role_,  sign_,
                                                 fields_, more_,    fewer_, remove_};
    for (QWidget* widget : of_own) widget->setEnabled(own);
}

void ElementKindsDialog::keep() {
    if (shown_ < 0 || shown_ >= int(kinds_.size())) return;
    ElementKind& kind = kinds_[size_t(shown_)];
    kind.at_least = at_least_->value(), kind.at_most = at_most_->value();
    if (!is_own(shown_)) return;
    if (!name_->text().trimmed().isEmpty()) kind.name = name_->text().trimmed().toStdString();
    kind.acts_as = acts_as_->currentData().toString().toStdString();
    kind.role = Role(role_->currentIndex()), kind.sign = Sign(sign_->currentIndex());
    const ElementKind& like = kind_of(kind.acts_as);
    kind.acting = like.acting, kind.id_prefix = like.id_prefix, kind.fields = like.fields;
    for (ElementField& field : fields_shown()) {
        std::erase_if(kind.fields, [&](const ElementField& one) { return one.key == field.key; });
        kind.fields.push_back(std::move(field));
    }
    list_->item(shown_)->setText(QString::fromStdString(kind.name));
    list_->item(shown_)->setIcon(sign_picture(kind));
}

void ElementKindsDialog::add_kind() {
    keep();
    ElementKind kind;
    kind.name = tr("New kind").toStdString();
    kind.key = key_from(tr("New kind"), kinds_);
    kind.role = Role::device;
    const auto first_usual =
        std::find_if(kinds_.begin(), kinds_.end(), [](auto& one) { return one.name.empty(); });
    const auto at = kinds_.insert(first_usual, std::move(kind));
    fill_list(int(at - kinds_.begin()));
    name_->setFocus(), name_->selectAll();
}

void ElementKindsDialog::remove_kind() {
    if (!is_own(shown_)) return;
    kinds_.erase(kinds_.begin() + shown_);
    fill_list(0);
}

void ElementKindsDialog::fill_fields(const std::vector<ElementField>& fields) {
    fields_->setRowCount(int(fields.size()));
    for (int row = 0; row < int(fields.size()); ++row) {
        const ElementField& field = fields[size_t(row)];
        const auto text = [&](Column column, const QString& words) {
            fields_->setItem(row, column, new QTableWidgetItem(words));
        };
        text(key, QString::fromStdString(field.key)), text(unit, QString::fromStdString(field.unit));
        text(least, QString::number(field.least)), text(most, QString::number(field.most));
        text(usual, field.type == FieldType::text ? QString::fromStdString(field.usual_text)
                                                  : QString::number(field.usual));
        QStringList words;
        for (const std::string& one : field.choices) words << QString::fromStdString(one);
        text(choices, words.join(QStringLiteral(", ")));
        auto* types = new QComboBox;
        types->setAccessibleName(tr("Type"));
        for (const FieldType one : k_types) types->addItem(type_name(one), int(one));
        types->setCurrentIndex(types->findData(int(field.type)));
        fields_->setCellWidget(row, type, types);
    }
}

std::vector<ElementField> ElementKindsDialog::fields_shown() const {
    std::vector<ElementField> out;
    for (int row = 0; row < fields_->rowCount(); ++row) {
        const auto text = [&](Column column) {
            const QTableWidgetItem* item = fields_->item(row, column);
            return item ? item->text().trimmed() : QString();
        };
        // What is no number counts as none.
        const auto number = [&](Column column, double otherwise) {
            bool is_number = false;
            const double value = text(column).toDouble(&is_number);
            return is_number && std::isfinite(value) ? value : otherwise;
        };
        ElementField field;
        field.key = text(key).toStdString();
        if (field.key.empty()) continue;
        field.type =
            FieldType(qobject_cast<QComboBox*>(fields_->cellWidget(row, type))->currentData().toInt());
        field.unit = text(unit).toStdString();
        field.least = number(least, 0), field.most = std::max(number(most, field.least), field.least);
        field.usual = std::clamp(number(usual, field.least), field.least, field.most);
        if (field.type == FieldType::text) field.usual_text = text(usual).toStdString();
        for (const QString& one : text(choices).split(QLatin1Char(','), Qt::SkipEmptyParts))
            field.choices.push_back(one.trimmed().toStdString());
        if (field.type == FieldType::choice && field.choices.empty()) field.choices.push_back("usual");
        if (field.type == FieldType::size) field.usual_size = Vec3(1), field.least = 0.05, field.most = 100;
        out.push_back(std::move(field));
    }
    return out;
}

std::vector<std::shared_ptr<const ElementKind>> ElementKindsDialog::kinds() {
    keep(); // what is shown was perhaps changed last
    std::vector<std::shared_ptr<const ElementKind>> out;
    for (const ElementKind& kind : kinds_)
        if (!kind.name.empty() || kind.at_least > 0 || kind.at_most >= 0)
            out.push_back(std::make_shared<const ElementKind>(kind));
    return out;
}

} // namespace rubble::app
