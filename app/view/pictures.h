#pragma once

#include <map>

#include <QImage>
#include <QObject>

namespace rubble::app {

/// Pictures from files, read in the background and kept: whoever asks gets one when it is there.
class Pictures : public QObject {
    Q_OBJECT
public:
    /// Null while it is being read, or where it cannot be.
    const QImage* find(const QString& path);
    /// Whether it was tried to read, and is no picture.
    bool is_bad(const QString& path) const;

signals:
    void loaded(const QString& path);

private:
    struct Entry {
        QImage image;
        bool tried = false;
    };
    std::map<QString, Entry> entries_;
};

} // namespace rubble::app
