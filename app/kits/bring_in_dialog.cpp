#include "kits/bring_in_dialog.h"

#include <algorithm>

#include <QDialogButtonBox>
#include <QFormLayout>
#include <QGroupBox>
#include <QHeaderView>
#include <QPainter>
#include <QPushButton>
#include <QScrollArea>
#include <QVBoxLayout>

#include "kits/piece_picture.h"
#include "numbers.h"
#include "theme.h"
#include "window/number_field.h"

namespace rubble::app {

namespace {

constexpr PieceCollisionKind k_kinds[] = {PieceCollisionKind::none, PieceCollisionKind::box,
                                          PieceCollisionKind::hull, PieceCollisionKind::faces,
                                          PieceCollisionKind::brushes};
enum ModelColumn { k_name, k_triangles, k_size, k_modules, k_collision, k_odd, k_columns };

QString oddity_text(build::Oddity oddity) {
    using build::Oddity;
    switch (oddity) {
    case Oddity::scaled:
        return BringInDialog::tr("fits the module only scaled or turned upright");
    case Oddity::off_module:
        return BringInDialog::tr("no whole number of modules");
    case Oddity::other_origin:
        return BringInDialog::tr("origin unlike the others");
    case Oddity::many_objects:
        return BringInDialog::tr("several objects");
    case Oddity::inside_out:
        return BringInDialog::tr("faces look inwards");
    case Oddity::other_name:
        return BringInDialog::tr("name unlike the others");
    case Oddity::open_faces:
        return BringInDialog::tr("open faces, met as slabs");
    case Oddity::hull_only:
        return BringInDialog::tr("met as its hull");
    case Oddity::stairs:
        return BringInDialog::tr("stairs: a ramp can be met instead");
    }
    return {};
}

QString size_text(const Vec3& size) {
    return QStringLiteral("%1 × %2 × %3")
        .arg(plain_number(size.x), plain_number(size.y), plain_number(size.z));
}

} // namespace

QStringList collision_names() {
    return {BringInDialog::tr("Nothing"), BringInDialog::tr("Box"), BringInDialog::tr("Hull"),
            BringInDialog::tr("Its faces"), BringInDialog::tr("Brushes")};
}
PieceCollisionKind collision_at(int index) { return k_kinds[std::clamp(index, 0, 4)]; }
int index_of(PieceCollisionKind kind) {
    const auto found = std::find(std::begin(k_kinds), std::end(k_kinds), kind);
    return found == std::end(k_kinds) ? 3 : int(found - std::begin(k_kinds));
}

BringInDialog::BringInDialog(const Session& session, std::vector<build::BroughtPiece> files, QWidget* parent)
    : QDialog(parent),
      session_(session),
      files_(std::move(files)),
      jobs_([this](const Job& job, uint64_t number, const Cancel& cancel) {
          BroughtPieces pieces = build::pieces_of(job.files, job.how);
          if (!cancel.requested()) emit made(number, pieces);
      }) {
    qRegisterMetaType<BroughtPieces>();
    connect(this, &BringInDialog::made, this, &BringInDialog::take_pieces);
    setWindowTitle(tr("Bring pieces in"));
    const auto known = find_kit(session.project(), session.looking().kit());
    how_ = build::proposed(files_, known ? known->module_m : Vec3(session.project().module_m));
    if (const double height = build::usual_height(files_, how_); !known && height > 0)
        how_.module_m.z = height;
    auto* column = new QVBoxLayout(this);
    picture_ = new QLabel;
    picture_->setAccessibleName(tr("The pieces beside the character, at one scale"));
    auto* scroll = new QScrollArea;
    scroll->setWidget(picture_);
    scroll->setMinimumHeight(fontMetrics().height() * 11);
    column->addWidget(scroll, 2);
    auto* row = new QHBoxLayout;
    column->addLayout(row, 3);
    table_ = new QTableWidget(0, k_columns);
    table_->setAccessibleName(tr("Pieces"));
    table_->setHorizontalHeaderLabels(
        {tr("Name"), tr("Triangles"), tr("Size, m"), tr("Modules"), tr("Met as"), tr("To look at")});
    table_->setSelectionBehavior(QAbstractItemView::SelectRows);
    table_->verticalHeader()->hide();
    table_->horizontalHeader()->setStretchLastSection(true);
    row->addWidget(table_, 1);
    row->addWidget(build_settings());
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel);
    agree_ = buttons->button(QDialogButtonBox::Ok);
    agree_->setText(tr("Bring them in"));
    column->addWidget(buttons);
    connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    connect(table_, &QTableWidget::itemSelectionChanged, this, &BringInDialog::show_chosen);
    connect(table_, &QTableWidget::itemChanged, this, [this](QTableWidgetItem* item) {
        if (!showing_ && item->column() == k_name)
            pieces_[size_t(item->row())].piece.name = item->text().toStdString();
    });
    make_pieces();
    resize(1120, 680);
}

QWidget* BringInDialog::build_settings() {
    auto* side = new QWidget;
    auto* column = new QVBoxLayout(side);
    column->setContentsMargins(0, 0, 0, 0);
    auto* all = new QGroupBox(tr("All of them"));
    auto* form = new QFormLayout(all);
    kit_ = new QComboBox;
    kit_->setEditable(true);
    kit_->setAccessibleName(tr("Kit"));
    for (const auto& kit : session_.project().kits) {
        kit_->addItem(QString::fromStdString(kit->name), QString::fromStdString(kit->file));
        if (kit->file == session_.looking().kit()) kit_->setCurrentIndex(kit_->count() - 1);
    }
    if (kit_->count() == 0) kit_->setEditText(tr("Kit"));
    form->addRow(tr("Kit"), kit_);
    const QStringList axes{tr("Module, x"), tr("Module, y"), tr("Module, z")};
    for (int axis = 0; axis < 3; ++axis) {
        module_[axis] = new QDoubleSpinBox;
        module_[axis]->setRange(0.01, 1000);
        module_[axis]->setDecimals(3);
        module_[axis]->setSuffix(tr(" m"));
        module_[axis]->setValue(how_.module_m[axis]);
        module_[axis]->setAccessibleName(axes[axis]);
        form->addRow(axes[axis], module_[axis]);
    }
    scale_ = new QDoubleSpinBox;
    scale_->setRange(1e-6, 1e6);
    scale_->setDecimals(6);
    scale_->setStepType(QAbstractSpinBox::AdaptiveDecimalStepType);
    scale_->setValue(how_.scale);
    scale_->setToolTip(tr("Metres for one unit of the files"));
    form->addRow(tr("Scale"), scale_);
    up_ = new QComboBox;
    up_->addItems({tr("y is up in the files"), tr("z is up in the files")});
    up_->setCurrentIndex(how_.y_up ? 0 : 1);
    form->addRow(tr("Upright"), up_);
    origin_ = new QComboBox;
    origin_->addItems({tr("As it is"), tr("At the corner"), tr("Middle of the base")});
    origin_->setCurrentIndex(int(how_.origin));
    form->addRow(tr("Origin"), origin_);
    own_pieces_ = new QCheckBox(tr("Each object a piece of its own"));
    form->addRow(own_pieces_);
    column->addWidget(all);
    auto* some = new QGroupBox(tr("Those that are chosen"));
    auto* some_form = new QFormLayout(some);
    chosen_text_ = new QLabel;
    some_form->addRow(chosen_text_);
    collision_ = new QComboBox;
    collision_->addItems(collision_names());
    collision_->setAccessibleName(tr("Met as"));
    some_form->addRow(tr("Met as"), collision_);
    column->addWidget(some);
    column->addStretch();
    connect(collision_, &QComboBox::activated, this, &BringInDialog::set_collision);
    for (QDoubleSpinBox* box : {module_[0], module_[1], module_[2], scale_})
        connect(box, &QDoubleSpinBox::valueChanged, this, &BringInDialog::take_settings);
    for (QComboBox* box : {up_, origin_})
        connect(box, &QComboBox::activated, this, &BringInDialog::take_settings);
    connect(own_pieces_, &QCheckBox::toggled, this, &BringInDialog::take_settings);
    connect(kit_, &QComboBox::activated, this, [this] {
        const auto kit = find_kit(session_.project(), kit_file());
        for (int axis = 0; axis < 3 && kit; ++axis) module_[axis]->setValue(kit->module_m[axis]);
    });
    return side;
}

std::string BringInDialog::kit_file() const {
    const int known = kit_->findText(kit_->currentText());
    return known < 0 ? std::string() : kit_->itemData(known).toString().toStdString();
}

Vec3 BringInDialog::module_m() const {
    return {module_[0]->value(), module_[1]->value(), module_[2]->value()};
}

void BringInDialog::take_settings() {
    how_.module_m = module_m();
    how_.scale = scale_->value();
    how_.y_up = up_->currentIndex() == 0;
    how_.origin = build::OriginRule(origin_->currentIndex());
    how_.own_pieces = own_pieces_->isChecked();
    make_pieces();
}

void BringInDialog::make_pieces() {
    agree_->setEnabled(false); // those shown are not what is asked for any more
    chosen_text_->setText(tr("The pieces are being made"));
    request_ = jobs_.ask({files_, how_});
}

void BringInDialog::take_pieces(quint64 request, const BroughtPieces& pieces) {
    if (request != request_) return;
    pieces_ = pieces;
    agree_->setEnabled(true);
    show_pieces();
    show_picture();
    show_chosen();
}

void BringInDialog::show_pieces() {
    showing_ = true;
    table_->setRowCount(int(pieces_.size()));
    Kit kit;
    kit.module_m = how_.module_m;
    for (size_t i = 0; i < pieces_.size(); ++i) {
        const build::BroughtPiece& brought = pieces_[i];
        const auto put = [&](int column, const QString& text) {
            auto* item = new QTableWidgetItem(text);
            if (column != k_name) item->setFlags(item->flags() & ~Qt::ItemIsEditable);
            item->setToolTip(text);
            table_->setItem(int(i), column, item);
        };
        const auto count = modules_of(kit, brought.piece.size_m);
        QStringList odds;
        for (const build::Oddity oddity : brought.oddities) odds << oddity_text(oddity);
        put(k_name, QString::fromStdString(brought.piece.name));
        put(k_triangles, QString::number(numbers_of(brought.piece.body->model).triangles));
        put(k_size, size_text(brought.piece.size_m));
        put(k_modules, QStringLiteral("%1 × %2 × %3").arg(count[0]).arg(count[1]).arg(count[2]));
        put(k_collision, collision_names()[index_of(brought.piece.collision.kind)]);
        put(k_odd, odds.join(QStringLiteral("; ")));
    }
    table_->resizeColumnsToContents();
    showing_ = false;
}

void BringInDialog::show_picture() {
    const Character character = session_.character();
    std::vector<Shown> shown;
    double at = 3 * character.radius_m + 0.6, tallest = character.height_m;
    std::vector<double> middles;
    for (const build::BroughtPiece& brought : pieces_) {
        const Model& model = brought.piece.body->model;
        const double wide = seen_width(model);
        shown.push_back({&model, at + wide / 2});
        middles.push_back(at + wide / 2);
        at += wide + 0.6;
        tallest = std::max(tallest, seen_height(model));
    }
    const int text = fontMetrics().height() + 6, high = fontMetrics().height() * 10;
    const double px_per_m = std::clamp((high - text - 16) / tallest, 0.5, 400.0);
    const QSize size(std::max(int(at * px_per_m), 200), high - text);
    QPixmap picture(size.width(), high);
    picture.fill(color::paper);
    QPainter painter(&picture);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.drawImage(0, 0, side_by_side(shown, session_.project(), size, at));
    const double ground = size.height() - 4, r = character.radius_m * px_per_m,
                 h = character.height_m * px_per_m;
    painter.setPen(QPen(color::accent, 1.5));
    const double x = 1.5 * r + 4, head = std::min(r, h / 6);
    painter.drawEllipse(QPointF(x, ground - h + head), head, head);
    painter.drawRoundedRect(QRectF(x - r, ground - h + 2 * head, 2 * r, h - 2 * head), r / 2, r / 2);
    painter.setPen(color::ink);
    for (size_t i = 0; i < pieces_.size(); ++i) {
        const double wide = std::max(seen_width(*shown[i].model) * px_per_m, 40.0);
        const QRectF room(middles[i] * px_per_m - wide / 2, size.height(), wide, text);
        painter.drawText(room, Qt::AlignCenter,
                         fontMetrics().elidedText(QString::fromStdString(pieces_[i].piece.name),
                                                  Qt::ElideRight, int(wide)));
    }
    painter.end();
    picture_->setPixmap(picture);
    picture_->resize(picture.size());
}

std::vector<size_t> BringInDialog::chosen() const {
    std::vector<size_t> out;
    for (const QModelIndex& row : table_->selectionModel()->selectedRows()) out.push_back(size_t(row.row()));
    return out;
}

void BringInDialog::show_chosen() {
    const auto rows = chosen();
    collision_->setEnabled(!rows.empty());
    chosen_text_->setText(rows.empty() ? tr("Choose rows of the table")
                                       : counted(int(rows.size()), tr("piece"), tr("pieces")));
    if (!rows.empty()) collision_->setCurrentIndex(index_of(pieces_[rows[0]].piece.collision.kind));
}

void BringInDialog::set_collision(int index) {
    const auto rows = chosen();
    for (const size_t row : rows) pieces_[row] = build::with_collision(pieces_[row], collision_at(index));
    show_pieces();
    for (const size_t row : rows)
        table_->selectionModel()->select(table_->model()->index(int(row), 0),
                                         QItemSelectionModel::Select | QItemSelectionModel::Rows);
}

} // namespace rubble::app
