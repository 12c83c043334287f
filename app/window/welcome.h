#pragma once

#include <QDialog>
#include <QListWidget>

#include "level/frame.h"

namespace rubble::app {

/// Where the demo project lies: beside the program as it is installed, or in the folder that it was built
/// from; empty where it is in neither.
QString demo_folder();
/// A copy of the demo project that the user may change, made when it is first asked for; empty where it
/// cannot be made.
QString own_demo();

/// The picture that is kept of a file, and keeping one.
QPixmap picture_of_file(const QString& path);
void keep_picture_of_file(const QString& path, const QImage& image);

/// What to begin with: files worked on before, with pictures; levels of the demo project; new levels.
class Welcome : public QDialog {
    Q_OBJECT
public:
    explicit Welcome(QWidget* parent = nullptr);

signals:
    void fileChosen(const QString& path);
    void newChosen(rubble::Frame frame);

private:
    QListWidget* add_files(class QVBoxLayout& column, const QString& title);
};

} // namespace rubble::app

Q_DECLARE_METATYPE(rubble::Frame)
