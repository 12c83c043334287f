#include "tools/picture_catch.h"

#include <limits>

#include "level/item_search.h"
#include "theme.h"
#include "view/overlay.h"

namespace rubble::app {

namespace {

/// Opacity from which a pixel is caught.
constexpr int k_caught = 16;

/// How far along the ray something of a picture is met.
std::optional<double> met(const PlacedPicture& picture, const Ray& ray) {
    const PictureSides sides = sides_of(picture);
    const Vec3 normal = glm::cross(sides.right, sides.up);
    const auto at = meet_plane(ray, sides.corner, normal / glm::length(normal));
    if (!at) return {};
    const Vec3 part = part_at(picture, *at).value_or(Vec3(-1));
    if (part.x < 0 || part.x > 1 || part.y < 0 || part.y > 1) return {};
    const SheetTile* tile = picture.sheet ? picture.sheet->tile(picture.number) : nullptr;
    if (tile && picture.sheet->picture) {
        const auto [left, top, width, height] = pixels_of(*picture.sheet, *tile);
        const double across = picture.mirrored ? 1 - part.x : part.x;
        const int x = left + int(across * width), y = top + int((1 - part.y) * height);
        if (picture.sheet->picture->alpha(x, y) < k_caught) return {};
    }
    return glm::dot(*at - ray.from, ray.direction) / glm::dot(ray.direction, ray.direction);
}

/// How far along the ray a cell that is not empty is met.
std::optional<double> met(const PlacedTiles& block, const Ray& ray) {
    const auto at = meet_plane(ray, block.tiles.origin, along(layout_of(block.plane()).out));
    if (!at || block.tiles.grid.at(cell_at(block.tiles, block.plane(), *at)).empty()) return {};
    return glm::dot(*at - ray.from, ray.direction) / glm::dot(ray.direction, ray.direction);
}

} // namespace

std::optional<ItemId> picture_under(const Session& session, const Pointer& pointer) {
    std::optional<ItemId> best;
    double nearest = pointer.hit ? pointer.hit->along : std::numeric_limits<double>::infinity();
    for_each_item(session.level(), [&](const Item& item, const Layer& layer) {
        const PlacedPicture* picture = item.picture();
        const PlacedTiles* block = item.tiles();
        if ((!picture && !block) || item.hidden || is_hidden(session.level(), layer) ||
            is_locked(session.level(), item.id))
            return;
        const auto along = picture ? met(*picture, pointer.ray) : met(*block, pointer.ray);
        if (along && *along <= nearest) nearest = *along, best = item.id; // of equals the later lies before
    });
    return best;
}

void draw_picked_area(QPainter& painter, const Camera& camera, const Session& session) {
    if (!session.looking().picked_area() || session.stored_level().frame == Frame::space) return;
    painter.save();
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(color::accent, 1.6, Qt::DashLine));
    draw_box(painter, camera, *session.looking().picked_area());
    painter.restore();
}

} // namespace rubble::app
