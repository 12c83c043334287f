#include "level/brush_item.h"

#include <algorithm>

#include "level/shapes/shape_kind.h"

namespace rubble {

namespace {

/// A brush as its mirror image in its own plane y = 0: most shapes are that themselves.
Brush flipped(Brush brush) {
    std::vector<NamedFace> was = brush.looks.empty() ? std::vector<NamedFace>() : named_faces(brush);
    if (has_angle(brush.shape)) brush.angle_deg = -brush.angle_deg;
    if (brush.shape == Shape::mass) brush.cells = mirrored(brush.cells, 1);
    for (Vec2& p : brush.points) p.y = -p.y;
    if (brush.shape == Shape::outline) std::reverse(brush.points.begin(), brush.points.end());
    for (auto& hole : brush.holes) {
        for (Vec2& p : hole) p.y = -p.y;
        std::reverse(hole.begin(), hole.end());
    }
    for (Vec3& p : brush.corners) p.y = -p.y;
    for (auto& face : brush.faces) std::reverse(face.begin(), face.end());
    auto other = [](BoxSide side) {
        return side == BoxSide::near ? BoxSide::away : side == BoxSide::away ? BoxSide::near : side;
    };
    std::set<BoxSide> open;
    for (const BoxSide side : brush.open_sides) open.insert(other(side));
    brush.open_sides = std::move(open);
    if (!brush.looks.empty()) { // they are on the images of the faces they were on
        for (NamedFace& face : was) {
            for (Vec3& p : face.corners) p.y = -p.y;
            std::reverse(face.corners.begin(), face.corners.end());
        }
        brush.looks = carried(brush.looks, was, named_faces(brush));
    }
    return brush;
}

/// With all its measures larger or smaller in proportion.
Brush sized(Brush brush, double factor) {
    brush.size *= factor;
    brush.thickness_m *= factor, brush.shell_m *= factor, brush.cells.cell_m *= factor;
    for (Vec2& p : brush.points) p *= factor;
    for (auto& hole : brush.holes)
        for (Vec2& p : hole) p *= factor;
    for (Vec3& p : brush.corners) p *= factor;
    return has_points(brush.shape) ? measured(std::move(brush)) : brush; // as a reader would find it
}

} // namespace

const char* type_key(const Brush&) { return "brush"; }
const char* id_prefix(const Brush&) { return "b"; }
std::string kind_word(const Brush& brush) { return brush.effect == Effect::cut ? "cut" : "brush"; }

std::string search_words(const Brush& brush) {
    std::string words = brush.effect == Effect::cut ? "brush cut " : "brush fill ";
    words += kind_of(brush.shape).word;
    words += " " + brush.material.value;
    for (const auto& [face, look] : brush.looks) words += " " + look.material.value;
    if (brush.shell_m > 0) words += " hollow shell";
    if (!brush.host.empty()) words += " opening";
    return words;
}

std::string problem_of(const Brush& brush, const Brush* before) {
    if (before) {
        Brush there = brush;
        there.place = before->place;
        if (there == *before) {
            Brush plain; // whose size is sound
            plain.place = brush.place;
            return problem_of(plain);
        }
    }
    return problem_of(brush);
}

Box3 box_of(const Brush& brush) {
    Box3 box;
    for (const Vec3& p : corners_of(brush)) box.add(p);
    return box;
}

std::optional<Placement> placement_of(const Brush& brush) { return brush.place; }

std::optional<Vec3> place_of_part(const Brush& brush, const Vec3& part) {
    const Box3 box = own_box(brush);
    return brush.place.to_level(box.low + part * (box.high - box.low));
}

std::optional<Vec3> part_at(const Brush& brush, const Vec3& place) {
    const Box3 box = own_box(brush);
    return (brush.place.to_own(place) - box.low) / (box.high - box.low);
}

Brush transformed(const Brush& brush, const Transform& transform) {
    Brush out = transform.mirrors() ? flipped(brush) : brush;
    if (transform.factor() != 1) out = sized(std::move(out), transform.factor());
    out.place = transform.applied_to(brush.place);
    return out;
}

const ItemList* members_of(const Brush&) { return nullptr; }
Brush with_members(const Brush& brush, ItemList) { return brush; }

void for_each_reference(Brush& brush, const std::function<void(ItemId&)>& visit) {
    if (!brush.host.empty()) visit(brush.host);
}

} // namespace rubble
