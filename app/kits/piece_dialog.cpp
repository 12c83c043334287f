#include "kits/piece_dialog.h"

#include <algorithm>
#include <cmath>

#include <QDialogButtonBox>
#include <QFormLayout>
#include <QHeaderView>
#include <QPushButton>
#include <QVBoxLayout>

#include "build/joints.h"
#include "build/piece_body.h"
#include "edit/kits.h"
#include "io/kit_file.h"
#include "io/values_text.h"
#include "kits/bring_in_dialog.h"
#include "kits/piece_picture.h"
#include "numbers.h"

namespace rubble::app {

namespace {

enum JointColumn { k_number, k_side, k_kind, k_way, k_joint_columns };

QString side_name(ModuleSide side) {
    switch (side) {
    case ModuleSide::left:
        return PieceDialog::tr("left");
    case ModuleSide::right:
        return PieceDialog::tr("right");
    case ModuleSide::near:
        return PieceDialog::tr("near");
    case ModuleSide::away:
        return PieceDialog::tr("away");
    case ModuleSide::bottom:
        return PieceDialog::tr("bottom");
    case ModuleSide::top:
        break;
    }
    return PieceDialog::tr("top");
}

} // namespace

PieceDialog::PieceDialog(const Session& session, Kit kit, std::filesystem::path folder,
                         const std::string& first, QWidget* parent)
    : QDialog(parent),
      session_(session),
      kit_(std::move(kit)),
      folder_(std::move(folder)) {
    setWindowTitle(tr("Pieces of %1").arg(QString::fromStdString(kit_.name)));
    auto* column = new QVBoxLayout(this);
    auto* row = new QHBoxLayout;
    column->addLayout(row, 1);
    list_ = new QListWidget;
    list_->setAccessibleName(tr("Pieces"));
    list_->setSelectionMode(QAbstractItemView::ExtendedSelection);
    for (const auto& piece : kit_.pieces) {
        list_->addItem(QString::fromStdString(piece->name));
        if (piece->id == first) list_->setCurrentRow(list_->count() - 1);
    }
    if (list_->currentRow() < 0) list_->setCurrentRow(0);
    row->addWidget(list_, 1);
    auto* middle = new QVBoxLayout;
    picture_ = new QLabel;
    picture_->setAccessibleName(tr("The piece, and what it is met as"));
    picture_->setAlignment(Qt::AlignCenter);
    picture_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Ignored);
    picture_->setMinimumSize(fontMetrics().height() * 22, fontMetrics().height() * 20);
    about_ = new QLabel;
    about_->setWordWrap(true);
    middle->addWidget(picture_, 1);
    middle->addWidget(about_);
    row->addLayout(middle, 3);
    auto* right = new QVBoxLayout;
    right->addWidget(build_form());
    right->addWidget(build_joints(), 1);
    row->addLayout(right, 2);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel);
    buttons->button(QDialogButtonBox::Ok)->setText(tr("Change the kit"));
    column->addWidget(buttons);
    connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    connect(list_, &QListWidget::itemSelectionChanged, this, &PieceDialog::show_piece);
    resize(1080, 660);
    show_piece();
}

QWidget* PieceDialog::build_form() {
    auto* box = new QWidget;
    auto* form = new QFormLayout(box);
    form->setContentsMargins(0, 0, 0, 0);
    const auto add = [&](const QString& name, QWidget* field) {
        field->setAccessibleName(name);
        form->addRow(name, field);
    };
    name_ = new QLineEdit;
    add(tr("Name"), name_);
    collision_ = new QComboBox;
    collision_->addItems(collision_names());
    collision_->addItem(tr("An object of its file"));
    add(tr("Met as"), collision_);
    thickness_ = new QDoubleSpinBox;
    thickness_->setRange(0.001, 100);
    thickness_->setDecimals(3);
    thickness_->setSingleStep(0.05);
    thickness_->setSuffix(tr(" m"));
    thickness_->setToolTip(tr("Of the slabs behind faces that close nothing"));
    add(tr("Slabs"), thickness_);
    node_ = new QLineEdit;
    node_->setPlaceholderText(tr("col_*"));
    node_->setToolTip(tr("The name of the object that stands for its collision; * is any letters"));
    add(tr("Object"), node_);
    seat_ = new QComboBox;
    seat_->addItems({tr("In a cell"), tr("On an edge"), tr("On a corner"), tr("Anywhere")});
    add(tr("Sits"), seat_);
    overlap_ = new QDoubleSpinBox;
    overlap_->setRange(0, 10);
    overlap_->setDecimals(3);
    overlap_->setSingleStep(0.05);
    overlap_->setSuffix(tr(" m"));
    overlap_->setToolTip(tr("How far it reaches into its neighbours on purpose"));
    add(tr("Overlap"), overlap_);
    covers_ = new QCheckBox(tr("Stands over others on purpose"));
    form->addRow(covers_);
    values_ = new QPlainTextEdit;
    values_->setPlaceholderText(tr("tag\nkey = value"));
    values_->setTabChangesFocus(true);
    values_->setFixedHeight(fontMetrics().lineSpacing() * 4);
    add(tr("For the game"), values_);
    connect(name_, &QLineEdit::editingFinished, this, [this] {
        if (showing_ || chosen().size() != 1 || name_->text().trimmed().isEmpty()) return;
        change([this](Piece& piece) { piece.name = name_->text().trimmed().toStdString(); }, false);
        list_->item(int(chosen()[0]))->setText(name_->text().trimmed());
    });
    connect(collision_, &QComboBox::activated, this, [this](int index) {
        const bool node = index == collision_->count() - 1;
        const auto kind = node ? PieceCollisionKind::node : collision_at(index);
        change([kind](Piece& piece) { piece.collision.kind = kind; }, true);
    });
    connect(thickness_, &QDoubleSpinBox::valueChanged, this,
            [this](double to) { change([to](Piece& piece) { piece.collision.thickness_m = to; }, true); });
    connect(node_, &QLineEdit::editingFinished, this, [this] {
        const std::string to = node_->text().trimmed().toStdString();
        if (!chosen().empty() && first().collision.node != to)
            change([to](Piece& piece) { piece.collision.node = to; }, true);
    });
    connect(seat_, &QComboBox::activated, this,
            [this](int index) { change([index](Piece& piece) { piece.seat = PieceSeat(index); }, false); });
    connect(overlap_, &QDoubleSpinBox::valueChanged, this,
            [this](double to) { change([to](Piece& piece) { piece.overlap_m = to; }, true); });
    connect(covers_, &QCheckBox::clicked, this,
            [this](bool on) { change([on](Piece& piece) { piece.covers = on; }, false); });
    connect(values_, &QPlainTextEdit::textChanged, this, [this] {
        const Extra to = io::values_from_text(values_->toPlainText().toStdString());
        change([to](Piece& piece) { piece.values = to; }, false);
    });
    return box;
}

QWidget* PieceDialog::build_joints() {
    auto* box = new QWidget;
    auto* column = new QVBoxLayout(box);
    column->setContentsMargins(0, 0, 0, 0);
    by_hand_ = new QCheckBox(tr("Joints put right by hand"));
    by_hand_->setToolTip(tr("Else they are found from its cross-sections"));
    column->addWidget(by_hand_);
    joints_ = new QTableWidget(0, k_joint_columns);
    joints_->setAccessibleName(tr("Joints"));
    joints_->setHorizontalHeaderLabels({tr("No."), tr("Side"), tr("Kind"), tr("Passage")});
    joints_->verticalHeader()->hide();
    joints_->horizontalHeader()->setSectionResizeMode(k_kind, QHeaderView::Stretch);
    column->addWidget(joints_, 1);
    connect(joints_, &QTableWidget::itemChanged, this, &PieceDialog::take_joints);
    connect(by_hand_, &QCheckBox::clicked, this, [this](bool on) {
        change([on](Piece& piece) { piece.joints_by_hand = on; }, false);
        kit_ = build::with_joints_found(std::move(kit_));
        show_piece();
    });
    return box;
}

void PieceDialog::showEvent(QShowEvent* event) {
    QDialog::showEvent(event);
    layout()->activate();
    list_->doItemsLayout(); // rows are as high as the style says only now
    show_picture();
}

void PieceDialog::resizeEvent(QResizeEvent* event) {
    QDialog::resizeEvent(event);
    show_picture();
}

void PieceDialog::show_picture() {
    if (chosen().empty()) return picture_->clear();
    const QSize size = picture_->size() * devicePixelRatioF();
    QPixmap shown = QPixmap::fromImage(picture_with_matter(kit_, first(), session_.project(), size));
    shown.setDevicePixelRatio(devicePixelRatioF());
    picture_->setPixmap(shown);
}

std::vector<size_t> PieceDialog::chosen() const {
    std::vector<size_t> out;
    for (const QModelIndex& index : list_->selectionModel()->selectedIndexes())
        out.push_back(size_t(index.row()));
    std::sort(out.begin(), out.end());
    return out;
}

const Piece& PieceDialog::first() const { return *kit_.pieces[chosen()[0]]; }

void PieceDialog::change(const std::function<void(Piece&)>& edit, bool matter) {
    if (showing_) return;
    for (const size_t i : chosen()) {
        Piece piece = *kit_.pieces[i];
        edit(piece);
        if (matter && piece.collision.kind != PieceCollisionKind::node)
            piece.body = std::make_shared<const PieceBody>(build::with_matter_anew(piece));
        else if (matter)
            piece.body = nullptr; // which objects are drawn, the file says
        kit_.pieces[i] = std::make_shared<const Piece>(std::move(piece));
    }
    std::vector<Error> remarks;
    if (matter) kit_ = io::with_bodies(std::move(kit_), folder_, remarks);
    show_piece();
}

void PieceDialog::show_piece() {
    if (showing_) return;
    const auto rows = chosen();
    for (QWidget* field : std::initializer_list<QWidget*>{collision_, thickness_, node_, seat_, overlap_,
                                                          covers_, values_, by_hand_})
        field->setEnabled(!rows.empty());
    name_->setEnabled(rows.size() == 1), joints_->setEnabled(rows.size() == 1);
    if (rows.empty()) return picture_->clear();
    showing_ = true;
    const Piece& piece = first();
    if (!name_->hasFocus())
        name_->setText(rows.size() == 1 ? QString::fromStdString(piece.name) : tr("several"));
    const bool node = piece.collision.kind == PieceCollisionKind::node;
    collision_->setCurrentIndex(node ? collision_->count() - 1 : index_of(piece.collision.kind));
    thickness_->setValue(piece.collision.thickness_m);
    thickness_->setEnabled(node || piece.collision.kind == PieceCollisionKind::faces);
    if (!node_->hasFocus()) node_->setText(QString::fromStdString(piece.collision.node));
    node_->setEnabled(node);
    seat_->setCurrentIndex(int(piece.seat));
    overlap_->setValue(piece.overlap_m);
    covers_->setChecked(piece.covers);
    by_hand_->setChecked(piece.joints_by_hand);
    if (!values_->hasFocus()) values_->setPlainText(QString::fromStdString(io::text_of_values(piece.values)));
    show_picture();
    QString about = tr("Its model could not be read");
    if (piece.body) {
        const Vec3& seen = piece.size_m;
        about = tr("%1 × %2 × %3 m, %4 triangles. Lines: what it is met as, %5, %6 m³.")
                    .arg(plain_number(seen.x), plain_number(seen.y), plain_number(seen.z))
                    .arg(numbers_of(piece.body->model).triangles)
                    .arg(counted(int(piece.body->matter.size()), tr("convex body"), tr("convex bodies")))
                    .arg(plain_number(std::round(piece.body->matter_m3 * 1000) / 1000));
        if (!piece.body->remark.empty()) about += ' ' + QString::fromStdString(piece.body->remark);
    }
    about_->setText(about);
    show_joints();
    showing_ = false;
}

void PieceDialog::show_joints() {
    const Piece& piece = first();
    joints_->setRowCount(int(piece.joints.size()));
    for (int row = 0; row < joints_->rowCount(); ++row) {
        const Joint& joint = piece.joints[size_t(row)];
        const auto put = [&](int column, const QString& text, Qt::ItemFlags flags) {
            auto* item = new QTableWidgetItem(text);
            item->setFlags(flags);
            joints_->setItem(row, column, item);
            return item;
        };
        put(k_number, QString::number(row + 1), Qt::ItemIsEnabled);
        const bool one = joint.cell == std::array<int, 3>{0, 0, 0};
        put(k_side,
            one ? side_name(joint.side)
                : tr("%1 of cell %2 %3 %4")
                      .arg(side_name(joint.side))
                      .arg(joint.cell[0])
                      .arg(joint.cell[1])
                      .arg(joint.cell[2]),
            Qt::ItemIsEnabled);
        put(k_kind, QString::fromStdString(joint.kind), Qt::ItemIsEnabled | Qt::ItemIsEditable);
        put(k_way, {}, Qt::ItemIsEnabled | Qt::ItemIsUserCheckable)
            ->setCheckState(joint.passage ? Qt::Checked : Qt::Unchecked);
    }
    joints_->resizeColumnToContents(k_number), joints_->resizeColumnToContents(k_side);
    joints_->resizeColumnToContents(k_way);
}

/// A joint that somebody changes is put right by hand, and so are the piece's others.
void PieceDialog::take_joints() {
    if (showing_ || chosen().size() != 1) return;
    std::vector<Joint> joints = first().joints;
    for (int row = 0; row < joints_->rowCount(); ++row) {
        Joint& joint = joints[size_t(row)];
        const QString kind = joints_->item(row, k_kind)->text().trimmed();
        if (!kind.isEmpty()) joint.kind = kind.toStdString();
        joint.passage = joints_->item(row, k_way)->checkState() == Qt::Checked;
    }
    if (joints == first().joints) return;
    change([&](Piece& piece) { piece.joints = joints, piece.joints_by_hand = true; }, false);
}

} // namespace rubble::app
