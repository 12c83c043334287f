#include "kits/kit_palette.h"

#include <algorithm>

#include <QDrag>
#include <QMimeData>
#include <QStyle>
#include <QVBoxLayout>

#include "kits/piece_picture.h"
#include "numbers.h"
#include "theme.h"

namespace rubble::app {

namespace {

constexpr double k_parts[] = {1, 0.5, 0.25};

/// How often each piece of a kit stands in a level.
std::map<std::string, int> uses_of(const Level& level, const std::string& kit) {
    std::map<std::string, int> out;
    for_each_item(level, [&](const Item& item, const Layer&) {
        if (const PlacedPiece* placed = item.piece(); placed && placed->kit_file == kit)
            ++out[placed->piece_id];
    });
    return out;
}

/// A list whose pieces can be dragged out of it.
class PieceList : public QListWidget {
public:
    std::function<void(QListWidgetItem*)> taken;

protected:
    void startDrag(Qt::DropActions) override {
        taken(currentItem());
        auto* drag = new QDrag(this);
        auto* data = new QMimeData;
        data->setData(QString::fromLatin1(tray_piece_format), {});
        drag->setMimeData(data);
        drag->exec(Qt::CopyAction);
    }
};

} // namespace

KitPalette::KitPalette(Session& session, Shows shows, QWidget* parent)
    : QWidget(parent),
      session_(session),
      shows_(shows) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    kits_ = new QComboBox;
    kits_->setAccessibleName(tr("Kit"));
    kits_->setToolTip(tr("The kit whose pieces are placed"));
    parts_ = new QComboBox;
    parts_->setAccessibleName(tr("Module step"));
    parts_->setToolTip(tr("What pieces are put onto"));
    for (const QString& name : {tr("Whole modules"), tr("Half modules"), tr("Quarter modules")})
        parts_->addItem(name);
    search_ = new QLineEdit;
    search_->setAccessibleName(tr("Find a piece"));
    search_->setPlaceholderText(tr("Find a piece"));
    search_->setClearButtonEnabled(true);
    auto* list = new PieceList;
    list->taken = [this](QListWidgetItem* item) { take(item); };
    pieces_ = list;
    pieces_->setAccessibleName(tr("Pieces"));
    pieces_->setViewMode(QListView::IconMode);
    pieces_->setResizeMode(QListView::Adjust);
    pieces_->setMovement(QListView::Static);
    pieces_->setDragEnabled(true);
    pieces_->setDragDropMode(QAbstractItemView::DragOnly);
    pieces_->setUniformItemSizes(true);
    pieces_->setWordWrap(true);
    const int side = fontMetrics().height() * 3;
    pieces_->setIconSize({side, side});
    pieces_->setTextElideMode(Qt::ElideNone);
    pieces_->setMinimumHeight(fontMetrics().height() * 16);
    for (QWidget* widget : std::initializer_list<QWidget*>{kits_, parts_, search_}) column->addWidget(widget);
    column->addWidget(pieces_, 1);
    connect(kits_, &QComboBox::activated, this, [this](int index) {
        session_.looking().set_piece(kits_->itemData(index).toString().toStdString(), {});
        refresh();
    });
    connect(parts_, &QComboBox::activated, this,
            [this](int index) { session_.looking().set_module_part(k_parts[std::clamp(index, 0, 2)]); });
    connect(search_, &QLineEdit::textChanged, this, &KitPalette::fill_pieces);
    connect(pieces_, &QListWidget::itemClicked, this, &KitPalette::take);
    connect(pieces_, &QListWidget::itemActivated, this, &KitPalette::take);
    connect(&session_.looking(), &WayOfLooking::pieceChanged, this, &KitPalette::refresh);
    connect(&session_.looking(), &WayOfLooking::fittingChanged, this, [this] {
        fill_pieces();
        pieces_->scrollToTop();
    });
    refresh();
}

/// As many columns as names have room in.
void KitPalette::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    const int room = std::max(width(), 80) - style()->pixelMetric(QStyle::PM_ScrollBarExtent) - 8;
    const int columns = std::max(2, room / (fontMetrics().averageCharWidth() * 14));
    pieces_->setGridSize({room / columns, pieces_->iconSize().height() + fontMetrics().height() * 13 / 4});
}

void KitPalette::take(QListWidgetItem* item) {
    if (!item || !shown_) return;
    session_.looking().set_piece(shown_->file, item->data(Qt::UserRole).toString().toStdString());
    emit pieceTaken();
}

QIcon KitPalette::icon_of(const Piece& piece) {
    if (!piece.body) return {};
    auto& [body, icon] = icons_[piece.body.get()];
    if (!body) {
        body = piece.body;
        const QSize size = pieces_->iconSize() * devicePixelRatioF();
        QPixmap picture = QPixmap::fromImage(picture_of(body->model, session_.project(), size));
        picture.setDevicePixelRatio(devicePixelRatioF());
        icon = QIcon(picture);
    }
    return icon;
}

bool KitPalette::shows(const Kit& kit) const {
    return shows_ == Shows::pieces || std::any_of(kit.pieces.begin(), kit.pieces.end(),
                                                  [this](const auto& piece) { return shows(*piece); });
}

void KitPalette::fill_kits() {
    const QSignalBlocker block(kits_);
    kits_->clear();
    for (const auto& kit : session_.project().kits) {
        if (!shows(*kit)) continue;
        kits_->addItem(QString::fromStdString(kit->name), QString::fromStdString(kit->file));
        if (kit->file == session_.looking().kit()) kits_->setCurrentIndex(kits_->count() - 1);
    }
}

void KitPalette::fill_pieces() {
    const QSignalBlocker block(pieces_);
    pieces_->clear();
    if (!shown_) return;
    std::vector<std::shared_ptr<const Piece>> order(shown_->pieces.begin(), shown_->pieces.end());
    std::stable_sort(order.begin(), order.end(), [&](const auto& a, const auto& b) {
        const auto uses = [&](const Piece& piece) {
            const auto found = uses_.find(piece.id);
            return found == uses_.end() ? 0 : found->second;
        };
        // Those that fit where the pointer is stand before all others.
        const auto& fitting = session_.looking().fitting();
        const auto place = [&](const Piece& piece) {
            return std::find(fitting.begin(), fitting.end(), piece.id) - fitting.begin();
        };
        if (place(*a) != place(*b)) return place(*a) < place(*b);
        return uses(*a) > uses(*b);
    });
    for (const auto& piece : order) {
        const QString name = QString::fromStdString(piece->name);
        if (!shows(*piece) || !name.contains(search_->text(), Qt::CaseInsensitive)) continue;
        auto* item = new QListWidgetItem(icon_of(*piece), name, pieces_);
        item->setData(Qt::UserRole, QString::fromStdString(piece->id));
        const auto& fitting = session_.looking().fitting();
        if (std::find(fitting.begin(), fitting.end(), piece->id) != fitting.end()) {
            item->setData(Qt::AccessibleTextRole, tr("%1, fits here").arg(name));
            item->setForeground(color::sea_green);
            QFont font = item->font();
            font.setBold(true);
            item->setFont(font);
        }
        const auto used = uses_.find(piece->id);
        item->setToolTip(
            tr("%1: %2 × %3 × %4 m, in %5 of this level")
                .arg(name, plain_number(piece->size_m.x), plain_number(piece->size_m.y),
                     plain_number(piece->size_m.z),
                     counted(used == uses_.end() ? 0 : used->second, tr("place"), tr("places"))));
        if (piece->id == session_.looking().piece()) pieces_->setCurrentItem(item);
    }
}

void KitPalette::refresh() {
    auto kit = find_kit(session_.project(), session_.looking().kit());
    if (!kit || !shows(*kit)) {
        const auto& kits = session_.project().kits;
        const auto first =
            std::find_if(kits.begin(), kits.end(), [this](const auto& one) { return shows(*one); });
        if (first != kits.end()) {
            session_.looking().set_piece((*first)->file, {});
            return; // and it is shown by that
        }
        kit = nullptr;
    }
    fill_kits();
    for (QWidget* widget : std::initializer_list<QWidget*>{kits_, parts_, search_, pieces_})
        widget->setVisible(kit != nullptr);
    if (shows_ == Shows::props) parts_->hide(); // they stand on no module
    parts_->setCurrentIndex(session_.looking().module_part() == 1     ? 0
                            : session_.looking().module_part() == 0.5 ? 1
                                                                      : 2);
    auto uses = kit ? uses_of(session_.level(), kit->file) : std::map<std::string, int>{};
    const bool same = kit == shown_ && uses == uses_;
    shown_ = kit, uses_ = std::move(uses);
    if (!same) return fill_pieces();
    const QSignalBlocker block(pieces_);
    for (int i = 0; i < pieces_->count(); ++i)
        if (pieces_->item(i)->data(Qt::UserRole).toString().toStdString() == session_.looking().piece())
            pieces_->setCurrentItem(pieces_->item(i));
}

} // namespace rubble::app
