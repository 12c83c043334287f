#include "dressing/prints_dialog.h"

#include <QDialogButtonBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QMouseEvent>
#include <QPainter>
#include <QPushButton>
#include <QSpinBox>
#include <QVBoxLayout>

#include "edit/prints.h"
#include "theme.h"

namespace rubble::app {

namespace {

constexpr double k_corner_px = 9;

QImage image_of(const Material& material) {
    const PictureBytes* bytes = material.picture();
    if (!bytes) return {};
    return QImage::fromData(reinterpret_cast<const uchar*>(bytes->bytes.data()), int(bytes->bytes.size()))
        .convertToFormat(QImage::Format_RGBA8888);
}

Picture pixels_of(const QImage& image) {
    Picture out;
    out.width = image.width(), out.height = image.height();
    for (int y = 0; y < image.height(); ++y)
        out.rgba.insert(out.rgba.end(), image.constScanLine(y), image.constScanLine(y) + 4 * image.width());
    return out;
}

/// A name that no print has.
std::string fresh_name(const std::map<std::string, PrintRegion>& prints) {
    for (int i = 1;; ++i)
        if (const std::string name = "print_" + std::to_string(i); !prints.contains(name)) return name;
}

} // namespace

PrintsView::PrintsView(QImage picture, QWidget* parent) : QWidget(parent), picture_(std::move(picture)) {
    setAccessibleName(tr("Prints on the picture"));
    setMouseTracking(true);
}

void PrintsView::set_prints(std::map<std::string, PrintRegion> prints) {
    prints_ = std::move(prints);
    if (!prints_.contains(chosen_)) chosen_.clear();
    update();
    emit changed();
}

void PrintsView::choose(const std::string& name) {
    if (chosen_ == name) return;
    chosen_ = name;
    update();
    emit chosenChanged();
}

/// The picture as large as fits, in the middle.
QRectF PrintsView::room() const {
    const QSizeF size = QSizeF(picture_.size()).scaled(QSizeF(this->size()), Qt::KeepAspectRatio);
    return QRectF(QPointF((width() - size.width()) / 2, (height() - size.height()) / 2), size);
}

QPointF PrintsView::shown_at(int x, int y) const {
    const QRectF room = this->room();
    return {room.x() + room.width() * x / std::max(picture_.width(), 1),
            room.y() + room.height() * y / std::max(picture_.height(), 1)};
}

QPoint PrintsView::pixel_at(QPointF at) const {
    const QRectF room = this->room();
    if (room.width() <= 0 || room.height() <= 0) return {};
    return {std::clamp(int((at.x() - room.x()) / room.width() * picture_.width()), 0, picture_.width()),
            std::clamp(int((at.y() - room.y()) / room.height() * picture_.height()), 0, picture_.height())};
}

QRectF PrintsView::frame_of(const PrintRegion& region) const {
    return {shown_at(region.x, region.y), shown_at(region.x + region.width, region.y + region.height)};
}

void PrintsView::mousePressEvent(QMouseEvent* event) {
    if (event->button() != Qt::LeftButton || picture_.isNull()) return;
    from_ = pixel_at(event->position());
    hand_ = Hand::none;
    // The one that is marked has its corner before all others.
    if (const auto own = prints_.find(chosen_); own != prints_.end()) {
        const QPointF corner = frame_of(own->second).bottomRight() - event->position();
        if (std::hypot(corner.x(), corner.y()) <= k_corner_px) hand_ = Hand::sizes, before_ = own->second;
    }
    if (hand_ == Hand::none)
        for (const auto& [name, region] : prints_)
            if (frame_of(region).contains(event->position())) {
                hand_ = Hand::moves, before_ = region;
                choose(name);
                break;
            }
    if (hand_ == Hand::none) {
        hand_ = Hand::draws;
        choose({});
    }
}

void PrintsView::mouseMoveEvent(QMouseEvent* event) {
    if (hand_ == Hand::none) return;
    const QPoint at = pixel_at(event->position()), by = at - from_;
    if (hand_ == Hand::draws && chosen_.empty()) {
        if (by.manhattanLength() < 3) return;
        chosen_ = fresh_name(prints_);
        emit chosenChanged();
    }
    PrintRegion now = before_;
    switch (hand_) {
    case Hand::none:
        return;
    case Hand::draws:
        now = {std::min(from_.x(), at.x()), std::min(from_.y(), at.y()), std::abs(by.x()), std::abs(by.y())};
        break;
    case Hand::moves:
        now.x = std::clamp(now.x + by.x(), 0, picture_.width() - now.width);
        now.y = std::clamp(now.y + by.y(), 0, picture_.height() - now.height);
        break;
    case Hand::sizes:
        now.width += by.x(), now.height += by.y();
        break;
    }
    prints_[chosen_] = edit::within(now, picture_.width(), picture_.height());
    update();
    emit changed();
}

void PrintsView::mouseReleaseEvent(QMouseEvent*) { hand_ = Hand::none; }

void PrintsView::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::SmoothPixmapTransform);
    // What is see-through shows squares.
    const QRectF room = this->room();
    painter.fillRect(room, color::line.lighter(112));
    painter.fillRect(room, QBrush(color::line, Qt::Dense6Pattern));
    painter.drawImage(room, picture_);
    for (const auto& [name, region] : prints_) {
        const bool own = name == chosen_;
        const QRectF frame = frame_of(region);
        painter.setPen(QPen(own ? color::accent : color::sea_green, own ? 2.5 : 1.5));
        painter.drawRect(frame);
        const QString text = QString::fromStdString(name);
        const QRectF label(frame.topLeft(),
                           QSizeF(fontMetrics().horizontalAdvance(text) + 6, fontMetrics().height()));
        painter.fillRect(label, painter.pen().color());
        painter.setPen(color::paper);
        painter.drawText(label, Qt::AlignCenter, text);
        if (own) painter.fillRect(QRectF(frame.bottomRight() - QPointF(4, 4), QSizeF(8, 8)), color::accent);
    }
}

PrintsDialog::PrintsDialog(const Material& material, QWidget* parent) : QDialog(parent), material_(material) {
    setWindowTitle(tr("Prints of %1").arg(QString::fromStdString(material.name)));
    resize(fontMetrics().averageCharWidth() * 100, fontMetrics().height() * 34);
    const QImage image = image_of(material);
    pixels_ = pixels_of(image);
    auto* column = new QVBoxLayout(this);
    auto* across = new QHBoxLayout;
    column->addLayout(across, 1);
    view_ = new PrintsView(image);
    across->addWidget(view_, 3);
    auto* side = new QVBoxLayout;
    across->addLayout(side, 2);
    auto* about =
        new QLabel(tr("Drag over the picture to draw a print, drag one to move it, its corner to size it. "
                      "A double click in the list renames it."));
    about->setWordWrap(true);
    side->addWidget(about);
    list_ = new QListWidget;
    list_->setAccessibleName(tr("Prints"));
    list_->setEditTriggers(QAbstractItemView::DoubleClicked | QAbstractItemView::EditKeyPressed);
    side->addWidget(list_, 1);
    auto* remove = new QPushButton(tr("Remove the print"));
    auto* borders = new QPushButton(tr("Find by empty borders"));
    side->addWidget(remove), side->addWidget(borders);
    auto* grid = new QHBoxLayout;
    auto* columns = new QSpinBox;
    auto* rows = new QSpinBox;
    for (QSpinBox* box : {columns, rows}) box->setRange(1, 64), box->setValue(2);
    columns->setAccessibleName(tr("Columns")), rows->setAccessibleName(tr("Rows"));
    auto* by_grid = new QPushButton(tr("By a grid"));
    grid->addWidget(columns), grid->addWidget(new QLabel(QStringLiteral("×"))), grid->addWidget(rows);
    grid->addWidget(by_grid, 1);
    side->addLayout(grid);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel);
    column->addWidget(buttons);
    connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    connect(borders, &QPushButton::clicked, this,
            [this] { view_->set_prints(edit::prints_by_borders(pixels_)); });
    connect(by_grid, &QPushButton::clicked, this, [this, columns, rows] {
        view_->set_prints(edit::prints_by_grid(pixels_, columns->value(), rows->value()));
    });
    connect(remove, &QPushButton::clicked, this, [this] {
        auto prints = view_->prints();
        prints.erase(view_->chosen());
        view_->set_prints(std::move(prints));
    });
    connect(list_, &QListWidget::currentItemChanged, this, [this](QListWidgetItem* item) {
        if (item) view_->choose(item->data(Qt::UserRole).toString().toStdString());
    });
    connect(list_, &QListWidget::itemChanged, this, &PrintsDialog::rename);
    connect(view_, &PrintsView::changed, this, &PrintsDialog::fill);
    connect(view_, &PrintsView::chosenChanged, this, &PrintsDialog::fill);
    view_->set_prints(material.prints);
}

void PrintsDialog::fill() {
    const QSignalBlocker block(list_);
    list_->clear();
    for (const auto& [name, region] : view_->prints()) {
        auto* row = new QListWidgetItem(QString::fromStdString(name), list_);
        row->setFlags(row->flags() | Qt::ItemIsEditable);
        row->setData(Qt::UserRole, QString::fromStdString(name));
        row->setToolTip(tr("%1 × %2 pixels").arg(region.width).arg(region.height));
        if (name == view_->chosen()) list_->setCurrentItem(row);
    }
}

/// A name that is taken, or none, is not taken over.
void PrintsDialog::rename(QListWidgetItem* item) {
    const std::string was = item->data(Qt::UserRole).toString().toStdString(),
                      now = item->text().trimmed().toStdString();
    auto prints = view_->prints();
    if (const auto known = prints.find(was); known != prints.end() && !now.empty() && !prints.contains(now)) {
        auto one = prints.extract(known);
        one.key() = now;
        prints.insert(std::move(one));
        view_->set_prints(std::move(prints));
        view_->choose(now);
    }
    fill();
}

Material PrintsDialog::material() const {
    Material out = material_;
    out.prints = view_->prints();
    if (!out.prints.empty()) out.kind = MaterialKind::prints;
    return out;
}

} // namespace rubble::app
