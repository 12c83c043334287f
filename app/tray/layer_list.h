#pragma once

#include <QListWidget>

#include "session.h"

namespace rubble::app {

/// The level's layers: which one new items go to, and which are seen.
class LayerList : public QWidget {
    Q_OBJECT
public:
    explicit LayerList(Session& session, QWidget* parent = nullptr);

private:
    void refresh();
    void add_layer();
    void hide_layer(size_t index, bool hidden);

    Session& session_;
    QListWidget* list_ = nullptr;
};

} // namespace rubble::app
