#include "tray/layer_list.h"

#include <QColorDialog>
#include <QDropEvent>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QInputDialog>
#include <QLabel>
#include <QMenu>
#include <QTimer>
#include <QToolButton>

#include "commands/sheets.h"
#include "edit/items.h"
#include "edit/layer_scheme.h"
#include "edit/layers.h"
#include "level/item_search.h"
#include "numbers.h"
#include "theme.h"

namespace rubble::app {

namespace {

constexpr int k_most_layers_shown = 4;

QString name_of(const Layer& layer) {
    return QString::fromStdString(layer.name.empty() ? layer.id.value : layer.name);
}

QToolButton* head_button(const QString& sign, const QString& name) {
    auto* button = new QToolButton;
    button->setText(sign);
    button->setAutoRaise(true);
    button->setToolTip(name);
    button->setAccessibleName(name);
    return button;
}

} // namespace

LayerList::LayerList(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(14, 6, 8, 8);
    auto* head = new QHBoxLayout;
    auto* heading = new QLabel(tr("Layers"));
    heading->setProperty("role", "heading");
    QToolButton* add = head_button(QStringLiteral("+"), tr("Add a layer"));
    QToolButton* more = head_button(QStringLiteral("…"), tr("More for the chosen layer"));
    menu_ = new QMenu(this);
    more->setMenu(menu_);
    more->setPopupMode(QToolButton::InstantPopup);
    more->setStyleSheet(QStringLiteral("QToolButton::menu-indicator { image: none; }"));
    head->addWidget(heading);
    head->addStretch();
    head->addWidget(add);
    head->addWidget(more);
    column->addLayout(head);
    tree_ = new LayerTree;
    tree_->setAccessibleName(tr("Layers"));
    tree_->setHeaderHidden(true);
    tree_->setRootIsDecorated(false);
    tree_->setItemsExpandable(false);
    tree_->setIndentation(14);
    tree_->setContextMenuPolicy(Qt::CustomContextMenu);
    tree_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    tree_->setDragDropMode(QAbstractItemView::InternalMove);
    tree_->setToolTip(
        tr("New items go to the chosen layer; the tick shows or hides it in the view only. Dragged into "
           "another order, tiles lie before those that stand above"));
    connect(tree_, &LayerTree::dragged, this, &LayerList::move_row);
    column->addWidget(tree_);
    connect(add, &QToolButton::clicked, this, [this] { add_layer({}); });
    connect(menu_, &QMenu::aboutToShow, this, &LayerList::fill_menu);
    connect(tree_, &QWidget::customContextMenuRequested, this, [this](const QPoint& at) {
        if (!tree_->itemAt(at)) return;
        fill_menu();
        menu_->popup(tree_->viewport()->mapToGlobal(at));
    });
    connect(tree_, &QTreeWidget::itemChanged, this, &LayerList::take_changed);
    connect(tree_, &QTreeWidget::currentItemChanged, this, [this](QTreeWidgetItem* row) {
        const auto at = std::find(rows_.begin(), rows_.end(), row);
        if (row && at != rows_.end()) session_.looking().set_layer(int(at - rows_.begin()));
    });
    connect(&session_, &Session::levelChanged, this, &LayerList::refresh);
    connect(&session_, &Session::documentOpened, this, &LayerList::refresh);
    refresh();
}

void LayerList::refresh() {
    const QSignalBlocker block(tree_);
    tree_->clear();
    rows_.clear();
    const Level& level = session_.level();
    for (const auto& layer : level.layers) {
        QString text = tr("%1 · %2").arg(name_of(*layer)).arg(layer->items.size());
        if (layer->tiles)
            text = (*layer->tiles)->solid ? tr("%1 · solid tiles").arg(name_of(*layer))
                                          : tr("%1 · tiles").arg(name_of(*layer));
        if (layer->locked) text += tr(" · locked");
        if (layer->storey) text += tr(" · %1 m").arg(plain_number(layer->storey->floor_m));
        auto* row = new QTreeWidgetItem({text});
        row->setFlags(row->flags() | Qt::ItemIsUserCheckable);
        row->setCheckState(0, layer->hidden ? Qt::Unchecked : Qt::Checked);
        if (layer->storey)
            text += tr(": the floor of a storey with %1 over it").arg(metres_text(layer->storey->clear_m));
        row->setToolTip(0, text);
        if (layer->tint)
            row->setForeground(0,
                               QColor((*layer->tint)[0], (*layer->tint)[1], (*layer->tint)[2]).darker(160));
        rows_.push_back(row);
    }
    // A parent that is not there, or comes later, does not hold: such a layer stands at the top.
    for (size_t i = 0; i < rows_.size(); ++i) {
        size_t parent = i;
        for (size_t k = 0; k < i; ++k)
            if (level.layers[k]->id == level.layers[i]->parent) parent = k;
        parent == i ? tree_->addTopLevelItem(rows_[i]) : rows_[parent]->addChild(rows_[i]);
    }
    tree_->expandAll();
    if (!rows_.empty()) tree_->setCurrentItem(rows_[size_t(session_.layer())]);
    const int row = tree_->sizeHintForRow(0) > 0 ? tree_->sizeHintForRow(0) : fontMetrics().height() + 8;
    tree_->setFixedHeight(row * std::clamp(int(rows_.size()), 1, k_most_layers_shown) +
                          2 * tree_->frameWidth());
}

void LayerList::fill_menu() {
    menu_->clear();
    if (session_.level().layers.empty()) return;
    const size_t index = size_t(session_.layer());
    const Layer layer = chosen();
    auto add = [&](const QString& text, auto act) {
        connect(menu_->addAction(text), &QAction::triggered, this, act);
    };
    add(tr("Rename"), [this, index] {
        bool entered = false;
        const QString name =
            QInputDialog::getText(this, tr("Rename the layer"), tr("Name"), QLineEdit::Normal,
                                  name_of(*session_.level().layers[index]), &entered);
        if (entered) change(index, tr("Rename layer"), [&](Layer& one) { one.name = name.toStdString(); });
    });
    add(tr("New layer of tiles"), [this] { add_tile_layer(session_); });
    add(tr("New layer in it"), [this, layer] { add_layer(layer.id); });
    if (!layer.tiles)
        add(tr("Send the selection here"), [this, layer] {
            session_.apply(edit::sent_to_layer(session_.stored_level(), session_.selection(), layer.id),
                           tr("Send to layer"));
        });
    add(tr("Select all in it"), [this, index] {
        std::vector<ItemId> ids;
        for (const ItemPtr& item : session_.level().layers[index]->items) ids.push_back(item->id);
        session_.select(ids);
    });
    add(tr("Move it up"), [this, index] { move_by(index, -1); });
    add(tr("Move it down"), [this, index] { move_by(index, 1); });
    menu_->addSeparator();
    add(tr("Show it alone"), [this, layer] {
        session_.apply(edit::with_layer_alone(session_.stored_level(), layer.id), tr("Show a layer alone"));
    });
    add(tr("Show all"),
        [this] { session_.apply(edit::with_all_shown(session_.stored_level()), tr("Show all")); });
    add(layer.locked ? tr("Unlock") : tr("Lock"), [this, index, layer] {
        change(index, layer.locked ? tr("Unlock layer") : tr("Lock layer"),
               [&](Layer& one) { one.locked = !layer.locked; });
    });
    add(tr("Tint…"), [this, index] { choose_tint(index); });
    add(tr("Storey…"), [this, index] { ask_storey(index); });
    menu_->addSeparator();
    add(tr("Duplicate as a new area"), [this, index] { duplicate(index); });
    add(tr("Delete with all in it"), [this, layer] {
        session_.apply(edit::without_layer(session_.stored_level(), layer.id), tr("Delete layer"));
    });
}

void LayerList::change(size_t index, const QString& what, const std::function<void(Layer&)>& edit) {
    if (index >= session_.stored_level().layers.size()) return;
    Layer layer = *session_.stored_level().layers[index];
    edit(layer);
    session_.apply(edit::with_layer(session_.stored_level(), layer), what);
}

void LayerList::take_changed(QTreeWidgetItem* row) {
    const auto at = std::find(rows_.begin(), rows_.end(), row);
    if (at == rows_.end()) return;
    const size_t index = size_t(at - rows_.begin());
    const bool hidden = row->checkState(0) == Qt::Unchecked;
    // Later: the tree is made anew by the change.
    QTimer::singleShot(0, this, [this, index, hidden] {
        change(index, hidden ? tr("Hide layer") : tr("Show layer"), [&](Layer& one) { one.hidden = hidden; });
    });
}

void LayerList::add_layer(const LayerId& parent) {
    Layer layer;
    layer.id = edit::fresh_layer_id(session_.level());
    layer.name = tr("Layer %1").arg(session_.level().layers.size() + 1).toStdString();
    layer.parent = parent;
    session_.apply(edit::with_layer(session_.level(), layer), tr("Add layer"));
    session_.looking().set_layer(int(session_.level().layers.size()) - 1);
    refresh();
}

void LayerList::move_row(QTreeWidgetItem* row, QTreeWidgetItem* to, bool behind) {
    const auto index_of = [&](QTreeWidgetItem* one) {
        return size_t(std::find(rows_.begin(), rows_.end(), one) - rows_.begin());
    };
    const size_t from = index_of(row);
    if (from >= rows_.size()) return;
    size_t place = to ? index_of(to) + (behind ? 1 : 0) : rows_.size();
    if (place > from) --place; // it is counted without the one that moves
    move_by(from, int(place) - int(from));
}

void LayerList::move_by(size_t index, int rows) {
    const auto& layers = session_.stored_level().layers;
    const int place = std::clamp(int(index) + rows, 0, int(layers.size()) - 1);
    if (index >= layers.size() || place == int(index)) return;
    session_.apply(edit::with_layer_at(session_.stored_level(), layers[index]->id, size_t(place)),
                   tr("Order of layers"));
    session_.looking().set_layer(place);
    refresh();
}

void LayerTree::dropEvent(QDropEvent* event) {
    QTreeWidgetItem* to = itemAt(event->position().toPoint());
    const bool behind = dropIndicatorPosition() == BelowItem || dropIndicatorPosition() == OnItem;
    event->setDropAction(Qt::IgnoreAction); // the level is changed, and the rows follow it
    event->accept();
    // Later: the rows are made anew, and the drag still holds this one.
    QMetaObject::invokeMethod(
        this, [this, row = currentItem(), to, behind] { emit dragged(row, to, behind); },
        Qt::QueuedConnection);
}

void LayerList::choose_tint(size_t index) {
    const QColor tint = QColorDialog::getColor(color::stone, this, tr("Tint of the layer's bare stone"));
    if (tint.isValid())
        change(index, tr("Tint layer"), [&](Layer& one) {
            one.tint = {uint8_t(tint.red()), uint8_t(tint.green()), uint8_t(tint.blue())};
        });
}

/// A storey is typed as its floor's height and the room over it.
void LayerList::ask_storey(size_t index) {
    const auto now = session_.level().layers[index]->storey;
    const QString before =
        now ? tr("%1, %2").arg(plain_number(now->floor_m), plain_number(now->clear_m)) : tr("0, 3");
    bool entered = false;
    const QString text = QInputDialog::getText(
        this, tr("Storey"), tr("Height of its floor, clear height over it (empty: no storey)"),
        QLineEdit::Normal, before, &entered);
    if (!entered) return;
    const QStringList parts = text.split(',');
    const auto floor = parse_metres(parts.value(0)), clear = parse_metres(parts.value(1));
    if (!text.trimmed().isEmpty() && (!floor || !clear || *clear <= 0)) {
        emit session_.message(
            tr("A storey needs two numbers: the height of its floor, and the room over it"));
        return;
    }
    change(index, tr("Storey"), [&](Layer& one) {
        one.storey = floor && clear ? std::optional(Storey{*floor, *clear}) : std::nullopt;
    });
}

/// Beside the layer, a module away, as the base of a new area.
void LayerList::duplicate(size_t index) {
    const Layer& layer = *session_.stored_level().layers[index];
    Box3 box;
    for (const ItemPtr& item : layer.items) box.add(box_of(*item));
    const double module = session_.project().module_m;
    const double by = box.empty() ? module : std::ceil((box.high.x - box.low.x) / module + 1) * module;
    auto copy = edit::layer_duplicated(session_.stored_level(), layer.id, {by, 0, 0});
    if (copy.id.empty()) return;
    for (auto& one : copy.level.layers)
        if (one->id == copy.id) {
            Layer named = *one;
            named.name = tr("%1, again").arg(name_of(*one)).toStdString();
            one = std::move(named);
        }
    std::vector<ItemId> ids;
    for (const auto& one : copy.level.layers)
        if (one->id == copy.id)
            for (const ItemPtr& item : one->items) ids.push_back(item->id);
    session_.apply(std::move(copy.level), tr("Duplicate layer"));
    session_.select(ids); // ready to be moved where the new area shall be
}

} // namespace rubble::app
