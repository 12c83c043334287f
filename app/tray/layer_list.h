#pragma once

#include <QTreeWidget>

#include "session/session.h"

namespace rubble::app {

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
    void choose_tint(size_t index);
    void ask_storey(size_t index);
    void duplicate(size_t index);
    const Layer& chosen() const { return *session_.level().layers[size_t(session_.layer())]; }

    Session& session_;
    QTreeWidget* tree_ = nullptr;
    QMenu* menu_ = nullptr;
    std::vector<QTreeWidgetItem*> rows_; ///< in the order of the layers
};

} // namespace rubble::app
