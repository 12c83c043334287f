#include "tray/layer_list.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QTimer>
#include <QToolButton>

#include "edit/items.h"
#include "window/page.h"

namespace rubble::app {

LayerList::LayerList(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(14, 6, 8, 8);
    auto* head = new QHBoxLayout;
    auto* heading = new QLabel(tr("Layers"));
    heading->setProperty("role", "heading");
    auto* add = new QToolButton;
    add->setText(QStringLiteral("+"));
    add->setAutoRaise(true);
    add->setToolTip(tr("Add a layer"));
    add->setAccessibleName(tr("Add a layer"));
    head->addWidget(heading);
    head->addStretch();
    head->addWidget(add);
    column->addLayout(head);
    list_ = new QListWidget;
    list_->setAccessibleName(tr("Layers"));
    list_->setToolTip(tr("New items go to the chosen layer; the tick shows or hides it in the view only"));
    column->addWidget(list_);
    connect(add, &QToolButton::clicked, this, &LayerList::add_layer);
    connect(list_, &QListWidget::itemChanged, this, [this](QListWidgetItem* row) {
        const size_t index = size_t(list_->row(row));
        const bool hidden = row->checkState() == Qt::Unchecked;
        // Later: the list is made anew by the change.
        QTimer::singleShot(0, this, [this, index, hidden] { hide_layer(index, hidden); });
    });
    connect(list_, &QListWidget::currentRowChanged, this, [this](int row) {
        if (row >= 0) session_.set_layer(row);
    });
    connect(&session_, &Session::levelChanged, this, &LayerList::refresh);
    connect(&session_, &Session::documentOpened, this, &LayerList::refresh);
    refresh();
}

void LayerList::refresh() {
    const QSignalBlocker block(list_);
    list_->clear();
    for (const auto& layer : session_.level().layers) {
        auto* row = new QListWidgetItem(
            tr("%1  ·  %2")
                .arg(QString::fromStdString(layer->name.empty() ? layer->id.value : layer->name))
                .arg(layer->items.size()));
        row->setFlags(row->flags() | Qt::ItemIsUserCheckable);
        row->setCheckState(layer->hidden ? Qt::Unchecked : Qt::Checked);
        list_->addItem(row);
    }
    list_->setCurrentRow(session_.layer());
    fit_to_rows(*list_, 8);
}

void LayerList::add_layer() {
    Layer layer;
    layer.id = edit::fresh_layer_id(session_.level());
    layer.name = tr("Layer %1").arg(session_.level().layers.size() + 1).toStdString();
    session_.apply(edit::with_layer(session_.level(), layer), tr("Add layer"));
    session_.set_layer(int(session_.level().layers.size()) - 1);
    refresh();
}

void LayerList::hide_layer(size_t index, bool hidden) {
    if (index >= session_.level().layers.size()) return;
    Layer layer = *session_.level().layers[index];
    layer.hidden = hidden;
    session_.apply(edit::with_layer(session_.level(), layer), hidden ? tr("Hide layer") : tr("Show layer"));
}

} // namespace rubble::app
