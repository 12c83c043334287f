#pragma once

#include <functional>
#include <map>

#include <QDialog>
#include <QListWidget>
#include <QPixmap>
#include <QTimer>

#include "session/session.h"

namespace rubble::app {

/// All steps of the history with a picture of what the level was after each; any of them is gone to. What was
/// undone stands after the present until something else is done.
class HistoryList : public QDialog {
    Q_OBJECT
public:
    /// `picture` takes one of the level as it is seen.
    HistoryList(Session& session, std::function<QImage()> picture, QWidget* parent = nullptr);

protected:
    void showEvent(QShowEvent* event) override {
        fill();
        QDialog::showEvent(event);
    }

private:
    void note_step();
    void take_picture();
    void fill();

    Session& session_;
    std::function<QImage()> picture_;
    QListWidget* list_;
    QTimer* soon_;
    std::map<size_t, QPixmap> pictures_; ///< by step
};

} // namespace rubble::app
