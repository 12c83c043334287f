#pragma once

#include <QTreeWidget>

#include "session/session.h"

namespace rubble::app {

/// The rows of the layers, which can be dragged into another order.
class LayerTree : public QTreeWidget {
    Q_OBJECT
public:
    using QTreeWidget::QTreeWidget;

signals:
    /// A row was dragged before or behind another; null: to the end.
    void dragged(QTreeWidgetItem* row, QTreeWidgetItem* to, bool behind);

protected:
    void dropEvent(QDropEvent* event) override;
};

/// The level's layers as a tree: which one new items go to, which are seen, which are locked, and which are
/// storeys.
class LayerList : public QWidget {
    Q_OBJECT
public:
    explicit LayerList(Session& session, QWidget* parent = nullptr);

private:
    void refresh();
    void fill_menu();
    void add_layer(const LayerId& parent);
    void change(size_t index, const QString& what, const std::function<void(Layer&)>& edit);
    void take_changed(QTreeWidgetItem* row);
    void move_row(QTreeWidgetItem* row, QTreeWidgetItem* to, bool behind);
    void move_by(size_t index, int rows);
    void choose_tint(size_t index);
    void ask_storey(size_t index);
    void duplicate(size_t index);
    const Layer& chosen() const { return *session_.level().layers[size_t(session_.layer())]; }

    Session& session_;
    LayerTree* tree_ = nullptr;
    QMenu* menu_ = nullptr;
    std::vector<QTreeWidgetItem*> rows_; ///< in the order of the layers
};

} // namespace rubble::app
