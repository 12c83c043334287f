#include "casts/cast_dialog.h"

#include <algorithm>
#include <cmath>

#include <QFormLayout>
#include <QGroupBox>
#include <QHeaderView>
#include <QLineEdit>
#include <QMenu>
#include <QPushButton>
#include <QVBoxLayout>

#include "build/bring_in.h"
#include "casts/cast_plan.h"
#include "io/cast_file.h"
#include "io/project_file.h"
#include "kits/piece_picture.h"
#include "numbers.h"

namespace rubble::app {

namespace {

enum CastColumn { k_part, k_weight, k_least, k_most, k_where, k_apart, k_cast_columns };
/// Changes that follow each other sooner are one (ms).
constexpr int k_soon_ms = 200;
constexpr int k_most_of_each = 999;

/// As the kit or the assembly calls it.
QString name_of(const Project& project, const cast::Candidate& candidate) {
    if (const auto assembly = find_assembly(project, candidate.source))
        return QString::fromStdString(assembly->name);
    if (const auto kit = find_kit(project, candidate.kit_file))
        if (const auto piece = kit->piece(candidate.piece_id))
            return QString::fromStdString(piece->name.empty() ? piece->id : piece->name);
    return QString::fromStdString(candidate.name());
}

QString numbers_text(const cast::Figures& figures) {
    QStringList lines;
    lines << CastDialog::tr("%1 s, %2 m")
                 .arg(plain_number(std::round(figures.time_s * 10) / 10))
                 .arg(std::lround(figures.length_m));
    const int spans = figures.easy + figures.fair + figures.tight;
    lines << (spans == 0 ? CastDialog::tr("walked, no jumps")
                         : CastDialog::tr("jumps: %1 easy, %2 fair, %3 tight")
                               .arg(figures.easy)
                               .arg(figures.fair)
                               .arg(figures.tight));
    lines << counted(figures.dead_ends, CastDialog::tr("dead end"), CastDialog::tr("dead ends")) +
                 QStringLiteral(", ") +
                 counted(figures.loops, CastDialog::tr("loop"), CastDialog::tr("loops"));
    if (figures.pick_ups > 0)
        lines << counted(figures.pick_ups, CastDialog::tr("pick-up"), CastDialog::tr("pick-ups"));
    return lines.join('\n');
}

/// The cell of the module beside all that a level holds already.
cast::ModuleCell free_cell(const Level& level, const Vec3& module) {
    const Box3 box = box_of(level);
    if (box.empty()) return {0, 0, 0};
    return {int(std::ceil(box.high.x / module.x)) + 1, 0, 0};
}

} // namespace

CastDialog::CastDialog(const Session& session, QWidget* parent) : QDialog(parent), session_(session) {
    setWindowTitle(tr("Cast a level"));
    auto* column = new QVBoxLayout(this);
    auto* top = new QHBoxLayout;
    column->addLayout(top, 3);
    top->addWidget(build_parts(), 5);
    top->addWidget(build_area(), 3);
    top->addWidget(build_settings(), 2);
    column->addWidget(build_row(), 2);
    soon_.setSingleShot(true);
    soon_.setInterval(k_soon_ms);
    connect(&soon_, &QTimer::timeout, this, &CastDialog::cast_anew);
    connect(&caster_, &Caster::made, this, &CastDialog::show_outcome);
    open_rules(0);
    resize(1180, 720);
}

QWidget* CastDialog::build_parts() {
    auto* box = new QGroupBox(tr("What it is cast from"));
    auto* column = new QVBoxLayout(box);
    auto* row = new QHBoxLayout;
    known_ = new QComboBox;
    known_->setEditable(true);
    known_->setInsertPolicy(QComboBox::NoInsert);
    known_->setAccessibleName(tr("Rules"));
    known_->setToolTip(tr("Rules that the project keeps, or a name to keep these under"));
    known_->addItem(tr("New rules"));
    for (const auto& file : io::cast_rules_files(rules_folder()))
        if (const auto rules = io::load_cast_rules(file))
            known_->addItem(QString::fromStdString(rules->name), QString::fromStdString(file.string()));
    row->addWidget(known_, 1);
    auto* keep = new QPushButton(tr("Keep the rules"));
    keep->setAutoDefault(false);
    row->addWidget(keep);
    column->addLayout(row);
    parts_ = new QTableWidget(0, k_cast_columns);
    parts_->setAccessibleName(tr("Pieces and rooms"));
    parts_->setHorizontalHeaderLabels(
        {tr("Piece or room"), tr("Weight"), tr("At least"), tr("At most"), tr("Where"), tr("Not beside")});
    parts_->verticalHeader()->hide();
    parts_->setSelectionMode(QAbstractItemView::NoSelection);
    parts_->setIconSize(QSize(fontMetrics().height() * 2, fontMetrics().height() * 2));
    parts_->horizontalHeader()->setSectionResizeMode(k_part, QHeaderView::Stretch);
    column->addWidget(parts_, 1);
    connect(known_, &QComboBox::activated, this, &CastDialog::open_rules);
    connect(keep, &QPushButton::clicked, this, &CastDialog::keep_rules);
    connect(parts_, &QTableWidget::itemChanged, this, &CastDialog::take_settings);
    return box;
}

QSpinBox* CastDialog::add_number(QFormLayout& form, const QString& name, int least, int most) {
    auto* box = new QSpinBox;
    box->setRange(least, most);
    box->setAccessibleName(name);
    form.addRow(name, box);
    connect(box, &QSpinBox::valueChanged, this, &CastDialog::take_settings);
    return box;
}

QWidget* CastDialog::build_area() {
    auto* box = new QGroupBox(tr("Where"));
    auto* row = new QHBoxLayout(box);
    area_ = new AreaView;
    row->addWidget(area_, 1);
    auto* form = new QFormLayout;
    columns_ = add_number(*form, tr("Columns"), 1, 200);
    rows_ = add_number(*form, tr("Rows"), 1, 200);
    storeys_ = add_number(*form, tr("Storeys"), 1, 20);
    const std::array names{tr("From cell x"), tr("From cell y"), tr("From cell z")};
    for (size_t axis = 0; axis < 3; ++axis) low_[axis] = add_number(*form, names[axis], -9999, 9999);
    row->addLayout(form);
    connect(area_, &AreaView::changed, this, &CastDialog::take_settings);
    return box;
}

QWidget* CastDialog::build_settings() {
    auto* box = new QGroupBox(tr("How"));
    auto* form = new QFormLayout(box);
    form_ = new QComboBox;
    form_->addItems({tr("Network"), tr("Chain")});
    form_->setAccessibleName(tr("Form"));
    form_->setToolTip(tr("Ways that branch and come together, or one way from start to goal"));
    form->addRow(tr("Form"), form_);
    count_ = add_number(*form, tr("Pieces"), 1, cast::most_pieces);
    away_ = add_number(*form, tr("Goal away"), 0, cast::most_pieces);
    away_->setToolTip(tr("So many pieces from the start at least"));
    loops_ = add_number(*form, tr("Loops"), 0, 100);
    dead_ends_ = add_number(*form, tr("Dead ends"), 0, 100);
    for (QSpinBox* share : {loops_, dead_ends_}) share->setSuffix(tr(" %"));
    loops_->setToolTip(tr("Aimed at: of the pieces, how many close a way to one that is there already"));
    dead_ends_->setToolTip(tr("Aimed at: of the pieces, how many have one way only"));
    open_ = new QCheckBox(tr("Joints may stay open"));
    form->addRow(open_);
    connect(form_, &QComboBox::activated, this, &CastDialog::take_settings);
    connect(open_, &QCheckBox::toggled, this, &CastDialog::take_settings);
    return box;
}

QWidget* CastDialog::build_row() {
    auto* box = new QGroupBox(tr("Casts, each played from start to goal: click one to take it"));
    auto* column = new QVBoxLayout(box);
    auto* row = new QHBoxLayout;
    row->setSpacing(6);
    for (QToolButton*& card : cards_) {
        card = new QToolButton;
        card->setToolButtonStyle(Qt::ToolButtonTextUnderIcon);
        card->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
        card->setIconSize(QSize(fontMetrics().height() * 8, fontMetrics().height() * 7));
        card->setEnabled(false);
        row->addWidget(card, 1);
        const size_t place = size_t(&card - cards_.data());
        connect(card, &QToolButton::clicked, this, [this, place] {
            taken_ = outcomes_[place].cast;
            if (taken_) accept();
        });
    }
    column->addLayout(row, 1);
    auto* below = new QHBoxLayout;
    said_ = new QLabel;
    said_->setWordWrap(true);
    below->addWidget(said_, 1);
    auto* seed_name = new QLabel(tr("Seed of the first"));
    below->addWidget(seed_name);
    seed_ = new QSpinBox;
    seed_->setRange(0, 1'000'000'000);
    seed_->setValue(int(first_seed_));
    seed_->setAccessibleName(tr("Seed of the first"));
    seed_name->setBuddy(seed_);
    below->addWidget(seed_);
    auto* more = new QPushButton(tr("Eight others"));
    more->setAutoDefault(false);
    below->addWidget(more);
    auto* cancel = new QPushButton(tr("Close"));
    cancel->setAutoDefault(false);
    below->addWidget(cancel);
    column->addLayout(below);
    connect(seed_, &QSpinBox::valueChanged, this, [this](int seed) {
        first_seed_ = uint64_t(seed);
        soon_.start();
    });
    connect(more, &QPushButton::clicked, this, [this] { seed_->setValue(seed_->value() + shown); });
    connect(cancel, &QPushButton::clicked, this, &QDialog::reject);
    return box;
}

std::filesystem::path CastDialog::rules_folder() const { return session_.document().folder; }

void CastDialog::open_rules(int index) {
    const std::string file = known_->itemData(index).toString().toStdString();
    const Project& project = session_.project();
    if (file.empty()) {
        std::string kit = session_.looking().kit();
        if (!find_kit(project, kit) && !project.kits.empty()) kit = project.kits[0]->file;
        const auto known = find_kit(project, kit);
        const Vec3 module = known ? known->module_m : Vec3(project.module_m);
        rules_ = cast::proposed_rules(project, kit, free_cell(session_.level(), module));
    } else if (auto rules = io::load_cast_rules(file)) {
        rules_ = std::move(*rules);
    } else {
        said_->setText(QString::fromStdString(rules.error().text()));
        return;
    }
    rules_.frame = session_.level().frame, rules_.character = session_.level().character.value;
    show_rules();
    cast_anew();
}

void CastDialog::show_rules() {
    showing_ = true;
    area_->set_area(rules_.area);
    columns_->setValue(area_->columns()), rows_->setValue(area_->rows());
    storeys_->setValue(rules_.area.storeys);
    for (size_t axis = 0; axis < 3; ++axis) low_[axis]->setValue(rules_.area.low[axis]);
    form_->setCurrentIndex(int(rules_.form));
    count_->setValue(rules_.count), away_->setValue(rules_.goal_away);
    loops_->setValue(int(std::lround(rules_.loops * 100)));
    dead_ends_->setValue(int(std::lround(rules_.dead_ends * 100)));
    open_->setChecked(rules_.open_joints);
    show_parts();
    showing_ = false;
}

void CastDialog::show_parts() {
    parts_->setRowCount(0);
    parts_->setRowCount(int(rules_.candidates.size()));
    for (int row = 0; row < parts_->rowCount(); ++row) add_part_row(row);
    parts_->resizeRowsToContents();
    for (int column = k_weight; column < k_cast_columns; ++column) parts_->resizeColumnToContents(column);
}

void CastDialog::add_part_row(int row) {
    const cast::Candidate& candidate = rules_.candidates[size_t(row)];
    const QString name = name_of(session_.project(), candidate);
    auto* item = new QTableWidgetItem(name);
    item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsUserCheckable);
    item->setCheckState(candidate.weight > 0 ? Qt::Checked : Qt::Unchecked);
    if (const auto kit = find_kit(session_.project(), candidate.kit_file))
        if (const auto piece = kit->piece(candidate.piece_id); piece && piece->body)
            item->setIcon(QPixmap::fromImage(
                picture_of(piece->body->model, session_.project(), parts_->iconSize() * 2)));
    parts_->setItem(row, k_part, item);
    auto* weight = new QDoubleSpinBox;
    weight->setRange(0.1, 1000);
    weight->setDecimals(1);
    weight->setValue(candidate.weight > 0 ? candidate.weight : 1);
    weight->setMinimumWidth(fontMetrics().averageCharWidth() * 12);
    weight->setAccessibleName(tr("Weight of %1").arg(name));
    connect(weight, &QDoubleSpinBox::valueChanged, this, &CastDialog::take_settings);
    parts_->setCellWidget(row, k_weight, weight);
    const auto add_bound = [&](int column, int value, int none, const QString& what) {
        auto* bound = new QSpinBox;
        bound->setRange(none == 0 ? 0 : -1, k_most_of_each);
        bound->setSpecialValueText(QStringLiteral("–"));
        bound->setMinimumWidth(fontMetrics().averageCharWidth() * 10);
        bound->setValue(value);
        bound->setAccessibleName(what);
        connect(bound, &QSpinBox::valueChanged, this, &CastDialog::take_settings);
        parts_->setCellWidget(row, column, bound);
    };
    add_bound(k_least, candidate.at_least, 0, tr("At least of %1").arg(name));
    add_bound(k_most, candidate.at_most == cast::Candidate::unlimited ? -1 : candidate.at_most, -1,
              tr("At most of %1").arg(name));
    auto* where = new QComboBox;
    where->addItems({tr("Anywhere"), tr("Start"), tr("Goal")});
    where->setCurrentIndex(int(candidate.use));
    where->setAccessibleName(tr("Where %1 may be").arg(name));
    connect(where, &QComboBox::activated, this, &CastDialog::take_settings);
    parts_->setCellWidget(row, k_where, where);
    auto* apart = new QToolButton;
    apart->setPopupMode(QToolButton::InstantPopup);
    apart->setAccessibleName(tr("What %1 must not stand beside").arg(name));
    auto* menu = new QMenu(apart);
    int count = 0;
    for (const cast::Candidate& other : rules_.candidates) {
        QAction* action = menu->addAction(name_of(session_.project(), other));
        action->setCheckable(true);
        const auto is_pair = [&](const auto& pair) {
            return (pair.first == candidate.name() && pair.second == other.name()) ||
                   (pair.second == candidate.name() && pair.first == other.name());
        };
        action->setChecked(std::any_of(rules_.apart.begin(), rules_.apart.end(), is_pair));
        count += action->isChecked();
        const std::string a = candidate.name(), b = other.name();
        connect(action, &QAction::toggled, this, [this, a, b](bool on) {
            std::erase_if(rules_.apart, [&](const auto& pair) {
                return (pair.first == a && pair.second == b) || (pair.first == b && pair.second == a);
            });
            if (on) rules_.apart.emplace_back(a, b);
            soon_.start();
            QTimer::singleShot(0, this, [this] {
                showing_ = true;
                show_parts();
                showing_ = false;
            });
        });
    }
    apart->setMenu(menu);
    apart->setText(count == 0 ? QStringLiteral("–") : QString::number(count));
    parts_->setCellWidget(row, k_apart, apart);
}

void CastDialog::take_settings() {
    if (showing_) return;
    if (area_->columns() != columns_->value() || area_->rows() != rows_->value()) {
        showing_ = true;
        area_->set_size(columns_->value(), rows_->value());
        showing_ = false;
    }
    rules_.area.rows = area_->area().rows;
    rules_.area.storeys = storeys_->value();
    for (size_t axis = 0; axis < 3; ++axis) rules_.area.low[axis] = low_[axis]->value();
    rules_.form = cast::Form(form_->currentIndex());
    rules_.count = count_->value(), rules_.goal_away = away_->value();
    rules_.loops = loops_->value() / 100.0, rules_.dead_ends = dead_ends_->value() / 100.0;
    rules_.open_joints = open_->isChecked();
    for (int row = 0; row < parts_->rowCount(); ++row) {
        cast::Candidate& candidate = rules_.candidates[size_t(row)];
        const bool used = parts_->item(row, k_part)->checkState() == Qt::Checked;
        candidate.weight =
            used ? static_cast<QDoubleSpinBox*>(parts_->cellWidget(row, k_weight))->value() : 0;
        candidate.at_least = static_cast<QSpinBox*>(parts_->cellWidget(row, k_least))->value();
        const int most = static_cast<QSpinBox*>(parts_->cellWidget(row, k_most))->value();
        candidate.at_most = most < 0 ? cast::Candidate::unlimited : most;
        candidate.use = cast::Use(static_cast<QComboBox*>(parts_->cellWidget(row, k_where))->currentIndex());
    }
    soon_.start();
}

void CastDialog::cast_anew() {
    soon_.stop();
    come_ = 0;
    outcomes_ = {};
    for (QToolButton* card : cards_) {
        card->setEnabled(false);
        card->setText(tr("…"));
    }
    said_->clear();
    cast::Rules rules = rules_;
    std::erase_if(rules.candidates, [](const cast::Candidate& candidate) { return candidate.weight <= 0; });
    request_ = caster_.request(session_.project(), rules, first_seed_, shown);
}

void CastDialog::show_outcome(const CastOutcome& outcome) {
    if (outcome.request != request_) return;
    ++come_;
    outcomes_[size_t(outcome.place)] = outcome;
    QToolButton& card = *cards_[size_t(outcome.place)];
    card.setEnabled(outcome.cast != nullptr);
    const QString seed = tr("Seed %1").arg(outcome.seed);
    if (!outcome.cast) {
        card.setIcon({});
        card.setText(seed + '\n' + tr("none found"));
        said_->setText(QString::fromStdString(outcome.error));
        return;
    }
    const QImage plan = plan_of(*outcome.parts, *outcome.cast, card.iconSize() * devicePixelRatioF());
    QPixmap picture = QPixmap::fromImage(plan);
    picture.setDevicePixelRatio(devicePixelRatioF());
    card.setIcon(picture);
    card.setText(seed + '\n' + numbers_text(outcome.cast->figures));
    card.setAccessibleName(seed + QStringLiteral(": ") +
                           numbers_text(outcome.cast->figures).replace('\n', QStringLiteral("; ")));
}

void CastDialog::keep_rules() {
    const QString name = known_->currentText().trimmed();
    if (name.isEmpty() || rules_folder().empty()) {
        said_->setText(name.isEmpty() ? tr("Give the rules a name")
                                      : tr("Save the level in a project first: rules are kept there"));
        return;
    }
    rules_.name = name.toStdString();
    const auto file = rules_folder() / "casts" / (build::piece_id_from(rules_.name) + ".cast.json");
    const auto saved = io::save_cast_rules(rules_, file);
    if (!saved) {
        said_->setText(QString::fromStdString(saved.error().text()));
        return;
    }
    const QString path = QString::fromStdString(file.string());
    if (known_->findData(path) < 0) known_->addItem(name, path);
    known_->setCurrentIndex(known_->findData(path));
    said_->setText(tr("Kept as %1").arg(path));
}

} // namespace rubble::app
