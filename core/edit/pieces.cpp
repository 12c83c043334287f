#include "edit/pieces.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "edit/items.h"

namespace rubble::edit {

namespace {

/// What is nearer than that is there (metres).
constexpr double k_there_m = 1e-6;

bool is_thin(const Kit& kit, const Piece& piece, int axis) {
    const Box3 box = own_box(piece);
    return box.high[axis] - box.low[axis] < kit.module_m[axis] / 2;
}

/// The axis of the level along which an axis of the piece lies, for one that is turned by quarters.
int axis_in_level(const PlacedPiece& placed, int axis) {
    Vec3 own(0);
    own[axis] = 1;
    const Vec3 way = glm::abs(direction_in_level(placed, own));
    return way.x > way.y && way.x > way.z ? 0 : way.y > way.z ? 1 : 2;
}

} // namespace

Box3 cells_box(const Kit& kit, const PlacedPiece& placed) {
    Box3 box;
    if (!placed.piece) return box_of(placed);
    const PieceCells cells = cells_of(kit, *placed.piece);
    const Vec3 high = cells.low + kit.module_m * Vec3(cells.count[0], cells.count[1], cells.count[2]);
    box.add(to_level(placed, cells.low));
    box.add(to_level(placed, high));
    box.add(to_level(placed, {cells.low.x, high.y, cells.low.z}));
    box.add(to_level(placed, {high.x, cells.low.y, high.z}));
    return box;
}

Vec3 module_as_turned(const Kit& kit, const PlacedPiece& placed) {
    Vec3 out(0);
    for (int axis = 0; axis < 3; ++axis) out[axis_in_level(placed, axis)] = kit.module_m[axis];
    return glm::max(out, Vec3(1e-3));
}

Vec3 off_module(const Kit& kit, const PlacedPiece& placed) {
    if (!placed.piece || placed.piece->seat == PieceSeat::free) return Vec3(0);
    return placed.place.at - on_module(kit, placed).place.at;
}

PlacedPiece on_module(const Kit& kit, PlacedPiece placed, double part) {
    if (!placed.piece || placed.piece->seat == PieceSeat::free) return placed;
    const Box3 box = cells_box(kit, placed);
    const Vec3 module = module_as_turned(kit, placed);
    for (int axis = 0; axis < 3; ++axis) {
        const int there = axis_in_level(placed, axis);
        const bool on_line =
            placed.piece->seat != PieceSeat::cell && axis < 2 && is_thin(kit, *placed.piece, axis);
        const double step = module[there] * part, shift = on_line ? module[there] / 2 : 0;
        const double low = box.low[there] + shift;
        placed.place.at[there] += std::round(low / step) * step - low;
        placed.place.at[there] = std::round(placed.place.at[there] * 1e6) / 1e6;
    }
    return placed;
}

std::optional<Vec3> module_of(const Project& project, const Level& level, const std::vector<ItemId>& ids) {
    std::optional<Vec3> out;
    for (const ItemId& id : ids) {
        const Item* item = find_item(level, id);
        const PlacedPiece* placed = item ? item->piece() : nullptr;
        const auto kit = placed ? find_kit(project, placed->kit_file) : nullptr;
        if (!kit || !placed->piece || placed->piece->seat == PieceSeat::free) return {};
        if (!out) out = module_as_turned(*kit, *placed);
    }
    return out;
}

std::optional<Vec3> move_on_module(const Project& project, const Level& level, const std::vector<ItemId>& ids,
                                   const Vec3& by, double part) {
    if (!module_of(project, level, ids)) return {};
    const PlacedPiece& first = *find_item(level, ids[0])->piece();
    PlacedPiece moved = first;
    moved.place.at += by;
    return on_module(*find_kit(project, first.kit_file), std::move(moved), part).place.at - first.place.at;
}

std::vector<PlacedJoint> joints_of(const Kit& kit, const Item& item) {
    std::vector<PlacedJoint> out;
    const PlacedPiece* placed = item.piece();
    if (!placed || !placed->piece) return out;
    const PieceCells cells = cells_of(kit, *placed->piece);
    for (const Joint& joint : placed->piece->joints) {
        const CellSide side = side_of(kit, cells, joint.cell, joint.side);
        std::string kind = joint.kind;
        if (placed->mirrored && !kind.empty() && (kind.back() == '+' || kind.back() == '-'))
            kind.back() = kind.back() == '+' ? '-' : '+';
        out.push_back({item.id, to_level(*placed, side.middle), direction_in_level(*placed, side.out), kind,
                       joint.passage, direction_in_level(*placed, side.right),
                       direction_in_level(*placed, side.up)});
    }
    return out;
}

std::vector<PlacedJoint> joints_of(const Project& project, const Level& level) {
    std::vector<PlacedJoint> out;
    for_each_item(level, [&](const Item& item, const Layer&) {
        const PlacedPiece* placed = item.piece();
        if (!placed) return;
        if (const auto kit = find_kit(project, placed->kit_file)) {
            auto own = joints_of(*kit, item);
            std::move(own.begin(), own.end(), std::back_inserter(out));
        }
    });
    return out;
}

JointPlaces::Key JointPlaces::key_of(const Vec3& at, const Vec3& out) {
    constexpr double k_per_m = 200; // half a centimetre is no gap yet
    Key key{};
    for (int axis = 0; axis < 3; ++axis) {
        key[size_t(axis)] = std::llround(at[axis] * k_per_m);
        key[size_t(axis) + 3] = std::llround(out[axis] * 100);
    }
    return key;
}

JointPlaces::JointPlaces(std::vector<PlacedJoint> joints) : joints_(std::move(joints)) {
    for (size_t i = 0; i < joints_.size(); ++i) places_[key_of(joints_[i].at, joints_[i].out)] = i;
}

const PlacedJoint* JointPlaces::opposite(const PlacedJoint& joint) const {
    // Rounded apart they may be neighbours.
    const Key middle = key_of(joint.at, -joint.out);
    for (const int64_t x : {0, -1, 1})
        for (const int64_t y : {0, -1, 1})
            for (const int64_t z : {0, -1, 1}) {
                Key key = middle;
                key[0] += x, key[1] += y, key[2] += z;
                const auto found = places_.find(key);
                if (found != places_.end() && joints_[found->second].item != joint.item)
                    return &joints_[found->second];
            }
    return nullptr;
}

int fit_of(const Kit& kit, const PlacedPiece& placed, const JointPlaces& around) {
    if (!placed.piece) return 0;
    Item item;
    item.body = placed;
    int fit = 0;
    const std::vector<PlacedJoint> own = joints_of(kit, item);
    for (const PlacedJoint& joint : own)
        if (const PlacedJoint* other = around.opposite(joint))
            fit += joints_fit(joint.kind, other->kind) ? 1 : -2;
    // What looks at a side of it that has no joint is closed by it.
    const Box3 box = cells_box(kit, placed).grown(k_there_m * 1000);
    for (const PlacedJoint& other : around.all()) {
        if (!other.passage) continue;
        const Vec3 within = other.at + other.out * 0.05, without = other.at - other.out * 0.05;
        const auto inside = [&](const Vec3& p) {
            return glm::all(glm::greaterThan(p, box.low)) && glm::all(glm::lessThan(p, box.high));
        };
        if (!inside(within) || inside(without)) continue;
        const bool met = std::any_of(own.begin(), own.end(), [&](const PlacedJoint& joint) {
            return glm::length(joint.at - other.at) < 0.01 && glm::dot(joint.out, other.out) < -0.99;
        });
        fit -= !met;
    }
    return fit;
}

PlacedPiece turned_in_place(const Kit& kit, PlacedPiece placed, int quarters) {
    const Vec3 middle = cells_box(kit, placed).middle();
    const Item turned =
        transformed(Item{{}, {}, false, placed, {}}, Transform::turning(middle, 90.0 * quarters));
    return on_module(kit, *turned.piece());
}

double turn_that_fits(const Kit& kit, const PlacedPiece& placed, const JointPlaces& around) {
    double best_turn = placed.place.turn_deg;
    int best = fit_of(kit, placed, around);
    for (int quarters = 1; quarters < 4; ++quarters) {
        const PlacedPiece turned = turned_in_place(kit, placed, quarters);
        if (const int fit = fit_of(kit, turned, around); fit > best)
            best = fit, best_turn = turned.place.turn_deg;
    }
    return best_turn;
}

std::vector<std::string> pieces_that_fit(const Kit& kit, const PlacedPiece& there,
                                         const JointPlaces& around) {
    const Vec3 low = cells_box(kit, there).low;
    std::vector<std::pair<int, std::string>> found;
    for (const auto& piece : kit.pieces) {
        if (piece->seat != PieceSeat::cell) continue;
        PlacedPiece placed = there;
        placed.piece = piece, placed.piece_id = piece->id;
        placed.place.at += low - cells_box(kit, placed).low;
        placed = on_module(kit, std::move(placed));
        int best = fit_of(kit, placed, around);
        for (int quarters = 1; quarters < 4; ++quarters)
            best = std::max(best, fit_of(kit, turned_in_place(kit, placed, quarters), around));
        if (best > 0) found.emplace_back(best, piece->id);
    }
    std::stable_sort(found.begin(), found.end(),
                     [](const auto& a, const auto& b) { return a.first > b.first; });
    std::vector<std::string> out;
    for (auto& [fit, id] : found) out.push_back(std::move(id));
    return out;
}

std::vector<PlacedPiece> laid_out(const Kit& kit, const PlacedPiece& first, const Vec3& to, size_t most) {
    const Box3 box = cells_box(kit, first);
    Vec3 step = box.high - box.low;
    const bool seated =
        first.piece && first.piece->seat != PieceSeat::cell && first.piece->seat != PieceSeat::free;
    std::array<int, 2> count{0, 0};
    for (int axis = 0; axis < 2; ++axis)
        count[size_t(axis)] =
            int(std::clamp(std::round((to[axis] - box.middle()[axis]) / step[axis]), -4096.0, 4096.0));
    // What sits on a line is laid along it.
    if (seated && count[0] != 0 && count[1] != 0)
        (std::abs(count[0]) >= std::abs(count[1]) ? count[1] : count[0]) = 0;
    std::vector<PlacedPiece> out;
    for (int x = 0; x <= std::abs(count[0]); ++x)
        for (int y = 0; y <= std::abs(count[1]) && out.size() < most; ++y) {
            PlacedPiece one = first;
            one.place.at.x += (count[0] < 0 ? -x : x) * step.x;
            one.place.at.y += (count[1] < 0 ? -y : y) * step.y;
            out.push_back(std::move(one));
        }
    return out;
}

Level with_pieces_exchanged(const Project& project, Level level, const std::vector<ItemId>& ids,
                            const std::string& piece_id) {
    for (const ItemId& id : ids) {
        const Item* item = find_item(level, id);
        const PlacedPiece* placed = item ? item->piece() : nullptr;
        const auto kit = placed ? find_kit(project, placed->kit_file) : nullptr;
        const auto piece = kit ? kit->piece(piece_id) : nullptr;
        if (!piece) continue;
        Item changed = *item;
        PlacedPiece& now = std::get<PlacedPiece>(changed.body);
        const Vec3 low = cells_box(*kit, now).low;
        now.piece_id = piece_id, now.piece = piece;
        now.place.at += low - cells_box(*kit, now).low;
        now = on_module(*kit, std::move(now));
        level = with_changed(level, changed);
    }
    return level;
}

} // namespace rubble::edit
