#include "view/material_pictures.h"

#include <QCoreApplication>
#include <QPointer>
#include <QThreadPool>

#include "view/scene_mesh.h"

namespace rubble::app {

namespace {

/// A picture as a layer: square, whatever its own sides are.
QImage layer_of(const PictureBytes& picture, int side) {
    const QImage image =
        QImage::fromData(reinterpret_cast<const uchar*>(picture.bytes.data()), int(picture.bytes.size()));
    if (image.isNull()) return {};
    return image.convertToFormat(QImage::Format_RGBA8888)
        .scaled(side, side, Qt::IgnoreAspectRatio, Qt::SmoothTransformation);
}

/// The side of layers, in pixels, with which all of them and their smaller copies stay within what is
/// allowed.
int side_for(size_t count) {
    constexpr int k_largest = 1024, k_least = 64, k_pixel_bytes = 4;
    int side = k_largest;
    while (side > k_least &&
           qint64(count) * side * side * k_pixel_bytes * 4 / 3 > MaterialPictures::most_bytes)
        side /= 2;
    return side;
}

} // namespace

std::shared_ptr<const std::vector<QImage>> MaterialPictures::images(const Project& project) {
    const std::vector<const Material*> pictured = pictured_materials(project);
    const int side = side_for(pictured.size());
    std::vector<Entry> now;
    bool changed = !images_ || pictured.size() != entries_.size();
    for (size_t i = 0; i < pictured.size(); ++i) {
        const auto& bytes = pictured[i]->read.at(PictureRole::color);
        const auto known = std::find_if(entries_.begin(), entries_.end(), [&](const Entry& entry) {
            return entry.of.is(bytes) && entry.side == side;
        });
        changed |= known == entries_.end() || size_t(known - entries_.begin()) != i;
        now.push_back(known == entries_.end() ? Entry{pictured[i]->id, bytes, side, {}, false} : *known);
    }
    entries_ = std::move(now);
    for (Entry& entry : entries_)
        if (!entry.tried) read(entry);
    if (changed) {
        auto out = std::make_shared<std::vector<QImage>>();
        for (const Entry& entry : entries_) out->push_back(entry.image);
        images_ = std::move(out);
    }
    return images_;
}

void MaterialPictures::read(Entry& entry) {
    entry.tried = true;
    QThreadPool::globalInstance()->start(
        [self = QPointer<MaterialPictures>(this), bytes = entry.of, side = entry.side] {
            QImage image = layer_of(*bytes, side);
            QMetaObject::invokeMethod(qApp, [self, bytes, side, image = std::move(image)] {
                if (!self) return;
                for (Entry& known : self->entries_)
                    if (known.of.is(bytes) && known.side == side) known.image = image;
                self->images_.reset();
                emit self->loaded();
            });
        });
}

std::vector<MaterialId> MaterialPictures::damaged() const {
    std::vector<MaterialId> out;
    for (const Entry& entry : entries_)
        if (entry.tried && entry.image.isNull()) out.push_back(entry.material);
    return out;
}

} // namespace rubble::app
