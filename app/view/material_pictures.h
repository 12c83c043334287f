#pragma once

#include <memory>
#include <vector>

#include <QImage>
#include <QObject>

#include "level/level.h"

namespace rubble::app {

/// The pictures of a project's materials as they are drawn: all of one size, so that a graphics card takes
/// them as layers of one. Read in the background; whoever draws gets those that are there.
class MaterialPictures : public QObject {
    Q_OBJECT
public:
    using QObject::QObject;

    /// One image for each material that has a picture, in the order of `pictured_materials`; null where it is
    /// still being read. The same object as long as nothing has changed.
    std::shared_ptr<const std::vector<QImage>> images(const Project& project);
    /// The materials whose pictures could not be read.
    std::vector<MaterialId> damaged() const;

    /// So much do all of them take at most on the graphics card (bytes); with more of them each is smaller.
    static constexpr qint64 most_bytes = 256 << 20;

signals:
    void loaded();

private:
    struct Entry {
        MaterialId material;
        Shared<PictureBytes> of;
        int side = 0;
        QImage image;
        bool tried = false;
    };
    void read(Entry& entry);

    std::vector<Entry> entries_;
    std::shared_ptr<const std::vector<QImage>> images_;
};

} // namespace rubble::app
