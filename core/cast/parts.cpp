#include "cast/parts.h"

#include <algorithm>
#include <climits>
#include <cmath>
#include <set>
#include <tuple>

#include "edit/pieces.h"

namespace rubble::cast {

namespace {

/// As far from the module a piece within an assembly may stand (metres).
constexpr double k_on_module_m = 1e-3;

constexpr std::array k_sides{ModuleSide::left, ModuleSide::right,  ModuleSide::near,
                             ModuleSide::away, ModuleSide::bottom, ModuleSide::top};

ModuleSide side_towards(const Vec3& out) {
    ModuleSide best = ModuleSide::left;
    for (const ModuleSide side : k_sides)
        if (glm::dot(direction_of(side), out) > glm::dot(direction_of(best), out)) best = side;
    return best;
}

std::string with_other_hand(std::string kind) {
    if (!kind.empty() && (kind.back() == '+' || kind.back() == '-'))
        kind.back() = kind.back() == '+' ? '-' : '+';
    return kind;
}

/// A candidate as it lies in its kit or file.
struct Unturned {
    std::vector<ModuleCell> cells;
    std::vector<Joint> joints;
    Vec3 low{0};
};

class PartMaker {
public:
    PartMaker(const Project& project, const Rules& rules) : project_(project), rules_(rules) {}

    Result<Parts> run() {
        if (auto found = find_module(); !found) return tl::unexpected(found.error());
        for (size_t i = 0; i < rules_.candidates.size(); ++i) {
            const Candidate& candidate = rules_.candidates[i];
            auto plain = candidate.source.empty() ? of_piece(candidate) : of_assembly(candidate);
            if (!plain) return tl::unexpected(plain.error());
            add_turns(i, *plain);
        }
        out_.compare_kinds();
        return std::move(out_);
    }

private:
    static tl::unexpected<Error> refused(const Candidate& candidate, std::string why) {
        return fail("cast.part", candidate.name(), std::move(why));
    }

    Result<void> find_module() {
        if (rules_.candidates.empty())
            return fail("cast.empty", rules_.name, "The rules name no pieces. Choose some.");
        if (rules_.module_m) {
            out_.module_m = *rules_.module_m;
            return {};
        }
        for (const Candidate& candidate : rules_.candidates)
            if (const auto kit = find_kit(project_, candidate.kit_file)) {
                out_.module_m = kit->module_m;
                return {};
            }
        for (const Candidate& candidate : rules_.candidates)
            if (const auto assembly = find_assembly(project_, candidate.source))
                if (const auto kit = first_kit(assembly->resolved)) {
                    out_.module_m = kit->module_m;
                    return {};
                }
        return fail("cast.module", rules_.name,
                    "Nothing that may be cast is on a module. Say \"module_m\" in the rules.");
    }

    std::shared_ptr<const Kit> first_kit(const ItemList& items) const {
        std::shared_ptr<const Kit> kit;
        for_each_piece(items, [&](const Item& item) {
            if (!kit) kit = find_kit(project_, item.piece()->kit_file);
        });
        return kit;
    }

    template <class F> static void for_each_piece(const ItemList& items, const F& visit) {
        for (const ItemPtr& item : items) {
            if (item->piece()) visit(*item);
            if (const ItemList* members = members_of(*item)) for_each_piece(*members, visit);
        }
    }

    Result<Unturned> of_piece(const Candidate& candidate) const {
        const auto kit = find_kit(project_, candidate.kit_file);
        if (!kit) return refused(candidate, "Its kit " + candidate.kit_file + " is not in the project.");
        const auto piece = kit->piece(candidate.piece_id);
        if (!piece) return refused(candidate, "The kit " + candidate.kit_file + " has no such piece.");
        if (glm::length(kit->module_m - out_.module_m) > k_on_module_m)
            return refused(candidate, "Its kit has another module than the cast.");
        if (piece->seat != PieceSeat::cell)
            return refused(candidate, "It does not fill cells of its module, so it cannot be laid by itself. "
                                      "Make an assembly with it.");
        const PieceCells cells = cells_of(*kit, *piece);
        Unturned out;
        out.low = cells.low;
        for (int x = 0; x < cells.count[0]; ++x)
            for (int y = 0; y < cells.count[1]; ++y)
                for (int z = 0; z < cells.count[2]; ++z) out.cells.push_back({x, y, z});
        out.joints = piece->joints;
        return out;
    }

    ModuleCell cell_at(const Vec3& at, const Vec3& low) const {
        const Vec3 cell = glm::floor((at - low) / out_.module_m);
        return {int(cell.x), int(cell.y), int(cell.z)};
    }

    Result<Unturned> of_assembly(const Candidate& candidate) const {
        const auto assembly = find_assembly(project_, candidate.source);
        if (!assembly) return refused(candidate, "It is not in the project.");
        if (!assembly->flaw.empty()) return refused(candidate, assembly->flaw);
        Unturned out;
        Box3 box;
        bool on_module = true;
        std::vector<edit::PlacedJoint> joints;
        std::vector<Vec3> middles; // of the cells of its pieces
        for_each_piece(assembly->resolved, [&](const Item& item) {
            const PlacedPiece& placed = *item.piece();
            const auto kit = find_kit(project_, placed.kit_file);
            if (!kit || !placed.piece) return;
            auto own = edit::joints_of(*kit, item);
            std::move(own.begin(), own.end(), std::back_inserter(joints));
            if (placed.piece->seat != PieceSeat::cell) return;
            const Box3 cells = edit::cells_box(*kit, placed);
            box.add(cells.low), box.add(cells.high);
            const PieceCells in_kit = cells_of(*kit, *placed.piece);
            for (int x = 0; x < in_kit.count[0]; ++x)
                for (int y = 0; y < in_kit.count[1]; ++y)
                    for (int z = 0; z < in_kit.count[2]; ++z)
                        middles.push_back(
                            to_level(placed, in_kit.low + (Vec3(x, y, z) + Vec3(0.5)) * kit->module_m));
        });
        if (middles.empty()) return of_room(candidate, assembly->resolved);
        out.low = box.low;
        std::set<ModuleCell> cells;
        for (const Vec3& middle : middles) {
            const Vec3 in_cells = (middle - out.low) / out_.module_m - Vec3(0.5);
            on_module &= glm::length((in_cells - glm::round(in_cells)) * out_.module_m) < k_on_module_m;
            cells.insert(cell_at(middle, out.low));
        }
        if (!on_module) return refused(candidate, "Pieces in it stand off the module.");
        out.cells.assign(cells.begin(), cells.end());
        out.joints = candidate.joints.empty() ? left_open(joints, cells, out.low) : candidate.joints;
        return out;
    }

    std::vector<Joint> left_open(const std::vector<edit::PlacedJoint>& joints,
                                 const std::set<ModuleCell>& cells, const Vec3& low) const {
        std::vector<Joint> out;
        const edit::JointPlaces places(joints);
        for (const edit::PlacedJoint& joint : places.all()) {
            if (places.opposite(joint)) continue;
            const ModuleCell cell = cell_at(joint.at - joint.out * out_.module_m * 0.5, low);
            const ModuleSide side = side_towards(joint.out);
            if (cells.contains(cell) && !cells.contains(beside(cell, side)))
                out.push_back({cell, side, joint.kind, joint.passage});
        }
        return out;
    }

    /// An assembly without pieces: the cells that its box takes up, and the joints that the rules name.
    Result<Unturned> of_room(const Candidate& candidate, const ItemList& items) const {
        Box3 box;
        for (const ItemPtr& item : items)
            if (const Box3 own = box_of(*item); !own.empty() && !item->element())
                box.add(own.low), box.add(own.high);
        if (box.empty()) return refused(candidate, "It takes up no room.");
        if (candidate.joints.empty())
            return refused(candidate, "It has no pieces whose joints are its entries. Say \"joints\" in the "
                                      "rules.");
        Unturned out;
        out.low = box.low;
        const Vec3 count = glm::max(Vec3(1), glm::round((box.high - box.low) / out_.module_m));
        if (count.x * count.y * count.z > most_cells) return refused(candidate, "It is too large.");
        for (int x = 0; x < int(count.x); ++x)
            for (int y = 0; y < int(count.y); ++y)
                for (int z = 0; z < int(count.z); ++z) out.cells.push_back({x, y, z});
        out.joints = candidate.joints;
        return out;
    }

    int kind_of(const std::string& kind) {
        const auto found = std::find(out_.kinds.begin(), out_.kinds.end(), kind);
        if (found == out_.kinds.end()) {
            out_.kinds.push_back(kind);
            return int(out_.kinds.size()) - 1;
        }
        return int(found - out_.kinds.begin());
    }

    static ModuleCell turned(ModuleCell cell, int quarters) {
        for (; quarters > 0; --quarters) cell = {-cell[1] - 1, cell[0], cell[2]};
        return cell;
    }
    static ModuleSide turned(ModuleSide side, int quarters) {
        constexpr std::array k_round{ModuleSide::right, ModuleSide::away, ModuleSide::left, ModuleSide::near};
        const auto found = std::find(k_round.begin(), k_round.end(), side);
        return found == k_round.end() ? side : k_round[size_t(found - k_round.begin() + quarters) % 4];
    }

    Part part_of(size_t candidate, const Unturned& plain, int quarters, bool mirrored) {
        Part part{candidate, quarters, mirrored, {}, {}, {}, 0};
        const auto as_mirrored = [&](ModuleCell cell) {
            if (mirrored) cell[0] = -cell[0] - 1;
            return cell;
        };
        ModuleCell low{INT_MAX, INT_MAX, INT_MAX};
        for (const ModuleCell& cell : plain.cells) {
            part.cells.push_back(turned(as_mirrored(cell), quarters));
            for (size_t axis = 0; axis < 3; ++axis) low[axis] = std::min(low[axis], part.cells.back()[axis]);
        }
        const auto from_low = [&](ModuleCell cell) {
            for (size_t axis = 0; axis < 3; ++axis) cell[axis] -= low[axis];
            return cell;
        };
        for (ModuleCell& cell : part.cells) cell = from_low(cell);
        std::sort(part.cells.begin(), part.cells.end());
        for (const Joint& joint : plain.joints) {
            ModuleSide side = joint.side;
            if (mirrored && (side == ModuleSide::left || side == ModuleSide::right)) side = opposite(side);
            part.joints.push_back(
                {from_low(turned(as_mirrored(joint.cell), quarters)), turned(side, quarters),
                 kind_of(mirrored ? with_other_hand(joint.kind) : joint.kind), joint.passage});
            part.passages += joint.passage;
        }
        std::sort(part.joints.begin(), part.joints.end(), [](const PartJoint& a, const PartJoint& b) {
            return std::tie(a.cell, a.side) < std::tie(b.cell, b.side);
        });
        part.low = low_of(plain, quarters, mirrored);
        return part;
    }

    Vec3 low_of(const Unturned& plain, int quarters, bool mirrored) const {
        ModuleCell end{0, 0, 0};
        for (const ModuleCell& cell : plain.cells)
            for (size_t axis = 0; axis < 3; ++axis) end[axis] = std::max(end[axis], cell[axis] + 1);
        Box3 box;
        for (Vec3 corner : {plain.low, plain.low + out_.module_m * Vec3(end[0], end[1], end[2])}) {
            if (mirrored) corner.x = -corner.x;
            for (int i = 0; i < quarters; ++i) corner = {-corner.y, corner.x, corner.z};
            box.add(corner);
        }
        return box.low;
    }

    void add_turns(size_t candidate, const Unturned& plain) {
        const Candidate& how = rules_.candidates[candidate];
        const bool square = std::abs(out_.module_m.x - out_.module_m.y) < k_on_module_m;
        const size_t first = out_.parts.size();
        for (int mirrored = 0; mirrored <= int(how.mirrors); ++mirrored)
            for (int quarters = 0; quarters < 4; quarters += square ? 1 : 2) {
                if (quarters > 0 && (!how.turns || rules_.frame == Frame::side)) break;
                Part part = part_of(candidate, plain, quarters, mirrored != 0);
                const bool known =
                    std::any_of(out_.parts.begin() + long(first), out_.parts.end(), [&](const Part& other) {
                        return other.cells == part.cells && other.joints == part.joints;
                    });
                if (!known) out_.parts.push_back(std::move(part));
            }
    }

    const Project& project_;
    const Rules& rules_;
    Parts out_;
};

} // namespace

void Parts::compare_kinds() {
    fit.assign(kinds.size(), std::vector<bool>(kinds.size()));
    for (size_t a = 0; a < kinds.size(); ++a)
        for (size_t b = 0; b < kinds.size(); ++b) fit[a][b] = joints_fit(kinds[a], kinds[b]);
}

Result<Parts> parts_of(const Project& project, const Rules& rules) { return PartMaker(project, rules).run(); }

ModuleCell beside(const ModuleCell& cell, ModuleSide side) {
    const Vec3 way = direction_of(side);
    return {cell[0] + int(way.x), cell[1] + int(way.y), cell[2] + int(way.z)};
}

ModuleSide opposite(ModuleSide side) { return ModuleSide(int(side) ^ 1); }

} // namespace rubble::cast
