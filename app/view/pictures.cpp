#include "view/pictures.h"

#include <QImageReader>
#include <QPointer>
#include <QThreadPool>

namespace rubble::app {

namespace {

/// What every graphics card takes; a larger picture is read smaller.
constexpr int k_widest_px = 4096;

QImage read(const QString& path) {
    QImageReader reader(path);
    const QSize size = reader.size();
    if (size.isValid() && std::max(size.width(), size.height()) > k_widest_px)
        reader.setScaledSize(size.scaled(k_widest_px, k_widest_px, Qt::KeepAspectRatio));
    return reader.read().convertToFormat(QImage::Format_RGBA8888);
}

} // namespace

const QImage* Pictures::find(const QString& path) {
    const auto known = entries_.find(path);
    if (known != entries_.end()) return known->second.image.isNull() ? nullptr : &known->second.image;
    entries_[path] = {};
    QThreadPool::globalInstance()->start([self = QPointer<Pictures>(this), path] {
        QImage image = read(path);
        QMetaObject::invokeMethod(qApp, [self, path, image = std::move(image)] {
            if (!self) return;
            self->entries_[path] = {image, true};
            emit self->loaded(path);
        });
    });
    return nullptr;
}

bool Pictures::is_bad(const QString& path) const {
    const auto known = entries_.find(path);
    return known != entries_.end() && known->second.tried && known->second.image.isNull();
}

} // namespace rubble::app
