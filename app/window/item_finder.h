#pragma once

#include <QLabel>
#include <QLineEdit>
#include <QListWidget>

#include "session/session.h"

namespace rubble::app {

/// The level's items with a search by name, kind, layer, size and place; shows where one is. Also finds those
/// that are lost.
class ItemFinder : public QFrame {
    Q_OBJECT
public:
    ItemFinder(Session& session, QWidget& window);
    void open(const QString& text = {});

signals:
    /// Where an item is, to fly to.
    void wanted(const rubble::Box3& box);

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    struct Row {
        ItemId id;
        QString title, about;
    };
    void fill();
    std::vector<Row> rows() const;
    void go_to_chosen();

    Session& session_;
    QLineEdit* text_ = nullptr;
    QListWidget* list_ = nullptr;
    QLabel* hint_ = nullptr;
    std::vector<Row> rows_;
};

} // namespace rubble::app
