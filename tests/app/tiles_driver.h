#pragma once

#include <QAbstractButton>
#include <QDialogButtonBox>
#include <QDropEvent>
#include <QMimeData>

#include "app/window_driver.h"
#include "core/tile_level.h"
#include "edit/tiles.h"
#include "io/picture_file.h"

namespace rubble::app {

/// The window driven through levels of tiles and the dialogs of their sheets.
class TilesDriver : public WindowDriver {
    Q_OBJECT

protected:
    const TileLayer& tiles() { return **session().tile_layer()->tiles; }
    int tile_at(double x, double ahead) {
        Vec3 place(x, 0, 0);
        place[layout_of(session().level().frame).ahead] = ahead;
        return tiles().grid.at(cell_at(tiles(), session().level().frame, place)).number();
    }
    void undo() { key(Qt::Key_Z, Qt::ControlModifier); }
    void start(Frame frame) {
        session().files().start_new(frame);
        view().frame_all();
        take_focus();
        settle();
    }
    /// Does something with the next dialog of a kind while it waits for an answer.
    template <class Dialog> void when_asked(const std::function<void(Dialog&)>& act) {
        auto* timer = new QTimer(this);
        connect(timer, &QTimer::timeout, this, [timer, act] {
            auto* dialog = qobject_cast<Dialog*>(QApplication::activeModalWidget());
            if (!dialog || !dialog->isVisible()) return;
            timer->deleteLater();
            const QPointer<Dialog> kept = dialog;
            act(*dialog);
            if (QTest::currentTestFailed() && kept) kept->reject(); // nobody else would answer it
        });
        timer->start(30);
    }
    static void agree(QDialog& dialog) {
        auto* buttons = dialog.findChild<QDialogButtonBox*>();
        QVERIFY(buttons);
        QTest::mouseClick(buttons->button(QDialogButtonBox::Ok), Qt::LeftButton);
    }
    void drop(const QString& file) {
        QMimeData data;
        data.setUrls({QUrl::fromLocalFile(file)});
        QDragEnterEvent enter({50, 50}, Qt::CopyAction, &data, Qt::LeftButton, {});
        QCoreApplication::sendEvent(window_.get(), &enter);
        QVERIFY(enter.isAccepted());
        QDropEvent dropped({50, 50}, Qt::CopyAction, &data, Qt::LeftButton, {});
        QCoreApplication::sendEvent(window_.get(), &dropped);
        for (int i = 0; i < 5; ++i) QCoreApplication::processEvents();
    }
    /// The grey sheet's picture, as a file that somebody has.
    QString grey_picture() {
        const QString path = folder_.path() + "/bricks.png";
        const auto saved = io::save_picture(*test::grey()->picture, path.toStdString());
        return saved ? path : QString();
    }
    static void keep_picture_of(QWidget& widget, const char* name) {
        if (const QString folder = qEnvironmentVariable("RUBBLE_PICTURES"); !folder.isEmpty())
            widget.grab().save(folder + "/" + name + ".png");
    }
};

} // namespace rubble::app
