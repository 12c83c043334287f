#include "io/gltf_tiles.h"

#include "build/tile_outlines.h"
#include "io/tile_export.h"
#include "level/tiles/laid_tiles.h"

namespace rubble::io {

namespace {

/// How far what collides reaches to both sides of the plane (metres).
constexpr double k_half_m = 0.5;
/// Within a tile's pixels by so much (pixels), so that no rounding takes a neighbour's.
constexpr double k_inset_px = 1.0 / 64;

/// Squares of one material.
struct Squares {
    std::vector<Vec3> points;
    std::vector<Vec2> places;
    std::vector<std::array<uint32_t, 3>> triangles;

    /// From the lower left corner as it is seen; `box_px` is what of the picture it shows, `placed_at` where
    /// of it (0 to 1, from its lower left) lies at a corner of the square.
    template <class PlacedAt>
    void add(const Vec3& corner, const Vec3& right, const Vec3& up, const std::array<int, 4>& box_px,
             const Picture* picture, PlacedAt placed_at) {
        const uint32_t first = uint32_t(points.size());
        for (const Vec2 p : {Vec2(0, 0), Vec2(1, 0), Vec2(1, 1), Vec2(0, 1)}) {
            points.push_back(corner + right * p.x + up * p.y);
            if (!picture) continue;
            const Vec2 from = placed_at(p);
            const double x = box_px[0] + k_inset_px + from.x * (box_px[2] - 2 * k_inset_px),
                         y = box_px[1] + k_inset_px + (1 - from.y) * (box_px[3] - 2 * k_inset_px);
            places.push_back({x / picture->width, y / picture->height});
        }
        triangles.push_back({first, first + 1, first + 2});
        triangles.push_back({first, first + 2, first + 3});
    }
};

Result<void> add_squares(GltfMaker& maker, const std::string& name, const Squares& squares,
                         const std::shared_ptr<const TileSheet>& sheet, double opacity) {
    if (squares.points.empty()) return {};
    const int node = maker.add_node(name, -1);
    tinygltf::Primitive primitive = maker.triangles(squares.points, squares.triangles);
    if (sheet && sheet->picture) {
        const auto material = maker.picture_material(sheet, opacity);
        if (!material) return tl::unexpected(material.error());
        primitive.material = *material;
        primitive.attributes["TEXCOORD_0"] = maker.texture_places(squares.places);
    } else {
        primitive.material = maker.material({});
    }
    maker.give_mesh(node, name, {primitive});
    return {};
}

/// Where of its own a tile shows at a corner of its cell.
Vec2 unplaced(const Tile& tile, Vec2 p) {
    for (int i = 0; i < tile.turns(); ++i) p = {p.y, 1 - p.x};
    if (tile.mirrored()) p.x = 1 - p.x;
    return p;
}

/// How far behind the plane of play a depth lies.
Vec3 behind(Frame frame, double depth) {
    return (frame == Frame::plan ? Vec3(0, 0, -1) : along(layout_of(frame).out)) * depth;
}

Squares squares_of(const TileLayer& layer, Frame frame) {
    const FrameLayout layout = layout_of(frame);
    const Vec3 right = along(layout.right) * layer.cell_m, up = along(layout.ahead) * layer.cell_m,
               shift = behind(frame, layer.depth);
    const Picture* picture = layer.sheet ? layer.sheet->picture.get() : nullptr;
    Squares out;
    layer.grid.for_each_tile(layer.grid.area(), [&](CellAt at, Tile tile) {
        const SheetTile* own = layer.sheet ? layer.sheet->tile(tile.number()) : nullptr;
        if (picture && !own) return;
        out.add(place_of(layer, frame, at, Vec2(0)) + shift, right, up,
                own ? pixels_of(*layer.sheet, *own) : std::array{0, 0, 1, 1}, picture,
                [&](Vec2 p) { return unplaced(tile, p); });
    });
    return out;
}

Result<void> add_picture(GltfMaker& maker, const Item& item, const PlacedPicture& picture) {
    const SheetTile* tile = picture.sheet ? picture.sheet->tile(picture.number) : nullptr;
    if (!tile || !picture.sheet->picture) return {};
    const PictureSides sides = sides_of(picture);
    Squares square;
    square.add(sides.corner, sides.right, sides.up, pixels_of(*picture.sheet, *tile),
               picture.sheet->picture.get(),
               [&](Vec2 p) { return picture.mirrored ? Vec2(1 - p.x, p.y) : p; });
    return add_squares(maker, item.title(), square, picture.sheet, picture.opacity);
}

/// What collides: the plane's areas as both ends, and walls along their outlines.
void add_collision(GltfMaker& maker, const Level& level, const TileMatter& matter) {
    const FrameLayout layout = layout_of(level.frame);
    const Vec3 out = level.frame == Frame::plan ? Vec3(0, 0, 1) : along(layout.out);
    std::vector<Vec3> points;
    std::vector<std::array<uint32_t, 3>> triangles;
    const auto place = [&](Vec2 p, double side) {
        return along(layout.right) * p.x + along(layout.ahead) * p.y + out * (side * k_half_m);
    };
    const auto square = [&](const std::array<Vec3, 4>& corners) {
        const uint32_t first = uint32_t(points.size());
        points.insert(points.end(), corners.begin(), corners.end());
        triangles.push_back({first, first + 1, first + 2});
        triangles.push_back({first, first + 2, first + 3});
    };
    // Right, up and out make a right-handed frame in plan, a left-handed one from the side.
    const double front = glm::dot(glm::cross(along(layout.right), along(layout.ahead)), out);
    for (const build::TilePrism& p : matter.prisms) {
        const std::array<Vec2, 4> c{Vec2(p.left, p.low_left), Vec2(p.right, p.low_right),
                                    Vec2(p.right, p.high_right), Vec2(p.left, p.high_left)};
        square({place(c[0], front), place(c[1], front), place(c[2], front), place(c[3], front)});
        square({place(c[3], -front), place(c[2], -front), place(c[1], -front), place(c[0], -front)});
    }
    for (const auto& line : matter.outlines)
        for (size_t i = 0; i < line.size(); ++i) {
            const Vec2 a = line[i], b = line[(i + 1) % line.size()];
            square({place(a, front), place(a, -front), place(b, -front), place(b, front)});
        }
    const int node =
        maker.add_collision(matter.name + " " + key_of(matter.kind), -1, maker.triangles(points, triangles));
    maker.node(node).extras = tinygltf::Value(tinygltf::Value::Object{
        {"collision", tinygltf::Value(true)}, {"kind", tinygltf::Value(std::string(key_of(matter.kind)))}});
}

} // namespace

Result<void> add_tiles(GltfMaker& maker, const Level& with_blocks) {
    const Level level = with_tiles_laid(with_blocks);
    for (const auto& layer : level.layers) {
        if (!layer->tiles || layer->hidden) continue;
        const TileLayer& tiles = **layer->tiles;
        if (auto added =
                add_squares(maker, layer->name, squares_of(tiles, level.frame), tiles.sheet, tiles.opacity);
            !added)
            return added;
    }
    Result<void> done;
    for_each_item(level, [&](const Item& item, const Layer&) {
        if (const PlacedPicture* picture = item.picture(); picture && done)
            done = add_picture(maker, item, *picture);
    });
    if (!done) return done;
    for (const TileMatter& matter : tile_matter_of(level)) add_collision(maker, level, matter);
    return {};
}

} // namespace rubble::io
