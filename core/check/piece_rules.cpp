#include "check/piece_rules.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <set>

#include "build/piece_body.h"
#include "check/seen_faces.h"
#include "edit/pieces.h"

namespace rubble::check {

namespace {

/// As many of one kind are told.
constexpr int k_most_told = 20;
/// Joints that look at each other from less than this are meant to meet (metres).
constexpr double k_near_m = 0.6;
/// What is nearer is met (metres).
constexpr double k_met_m = 0.006;
/// How much of what two pieces take up they share when they stand in one place.
constexpr double k_same_place = 0.5;
/// How far to both sides of a joint its floor is looked for (metres).
constexpr double k_beside_m = 0.15;
/// The part of an opening that is closed before a word is said.
constexpr double k_closed_part = 0.3;

double volume_of(const Box3& box) {
    const Vec3 size = glm::max(box.high - box.low, Vec3(0));
    return size.x * size.y * size.z;
}

Box3 shared(const Box3& a, const Box3& b) { return {glm::max(a.low, b.low), glm::min(a.high, b.high)}; }

bool holds(const std::vector<geometry::ConvexCell>& cells, const Vec3& p) {
    return std::any_of(cells.begin(), cells.end(), [&](const geometry::ConvexCell& cell) {
        return std::all_of(cell.faces.begin(), cell.faces.end(),
                           [&](const auto& face) { return face.plane.distance(p) < 0; });
    });
}

class PieceFinder {
public:
    PieceFinder(const Project& project, const Level& level, const CheckResult& result)
        : project_(project),
          level_(level),
          result_(result),
          c_(character_of(project, level)) {
        for_each_item(level, [&](const Item& item, const Layer&) {
            if (item.piece()) items_.push_back(&item);
            if (item.assembly()) look_at_assembly(item);
        });
    }

    std::vector<Finding> run() {
        if (items_.empty()) return std::move(out_);
        for (const Item* item : items_) look_at(*item);
        pairs();
        rough_corners();
        joints();
        closed_openings();
        return std::move(out_);
    }

private:
    void add(RuleId rule, Sentences says, const Vec3& at, std::vector<ItemId> items) {
        if (++told_[rule] > k_most_told) return;
        out_.push_back({rule, rule_of(rule).severity, std::move(says), at, std::move(items)});
    }

    void look_at_assembly(const Item& item) {
        const PlacedAssembly& placed = *item.assembly();
        if (placed.assembly && placed.assembly->flaw.empty()) return;
        Sentences says{{"The assembly %1 could not be read.", {placed.source}}};
        if (placed.assembly)
            says = {{"The assembly %1 comes to nothing: %2.", {placed.source, placed.assembly->flaw}}};
        add(RuleId::piece_missing, std::move(says), placed.place.at, {item.id});
    }

    void look_at(const Item& item) {
        const PlacedPiece& placed = *item.piece();
        const Vec3 at = box_of(placed).middle();
        if (!placed.piece || !placed.piece->body) {
            add(RuleId::piece_missing,
                {{"%1 of kit %2 could not be read.", {placed.piece_id, placed.kit_file}},
                 {"Its place is kept. Put the file back, or exchange the piece in its facts."}},
                at, {item.id});
            return;
        }
        const auto kit = find_kit(project_, placed.kit_file);
        if (!kit) return;
        const double off = glm::length(edit::off_module(*kit, placed));
        if (off > 1e-5)
            add(RuleId::piece_off_module, {{"%1 stands %2 off its module.", {item.id, Metres{off}}}}, at,
                {item.id});
    }

    /// Pairs of pieces whose boxes touch, found by a grid as wide as the largest box; those that cover others
    /// on purpose have none.
    template <class F> void for_each_pair(const F& visit) const {
        std::map<std::array<int, 3>, std::vector<std::pair<const Item*, Box3>>> grid;
        std::vector<std::pair<const Item*, Box3>> boxes;
        Vec3 largest(1);
        for (const Item* item : items_) {
            boxes.emplace_back(item, box_of(*item->piece()));
            largest = glm::max(largest, boxes.back().second.high - boxes.back().second.low);
        }
        for (const auto& [item, box] : boxes) {
            const Vec3 at = glm::floor(box.middle() / largest);
            const std::array<int, 3> cell{int(at.x), int(at.y), int(at.z)};
            for (int x = -1; x <= 1; ++x)
                for (int y = -1; y <= 1; ++y)
                    for (int z = -1; z <= 1; ++z) {
                        const auto found = grid.find({cell[0] + x, cell[1] + y, cell[2] + z});
                        if (found == grid.end()) continue;
                        for (const auto& [other, its] : found->second)
                            if (box.grown(k_met_m).touches(its)) visit(*other, its, *item, box);
                    }
            grid[cell].emplace_back(item, box);
        }
    }

    void pairs() {
        SeenFaces faces;
        for_each_pair([&](const Item& a, const Box3& box_a, const Item& b, const Box3& box_b) {
            const double least = std::min(volume_of(box_a), volume_of(box_b));
            if (!covers(a) && !covers(b) && volume_of(shared(box_a, box_b)) > k_same_place * least &&
                !fits_within(a, b)) {
                add(RuleId::pieces_in_one_place, {{"%1 and %2 stand in one place.", {a.id, b.id}}},
                    box_b.middle(), {a.id, b.id});
                return; // faces over each other would say it again
            }
            if (told_[RuleId::faces_flicker] > k_most_told) return;
            if (const auto at = faces.over_each_other(*a.piece(), *b.piece()))
                add(RuleId::faces_flicker,
                    {{"%1 and %2 show faces in one plane over each other, which flicker.", {a.id, b.id}},
                     {"Move one of them a little, or let it cover the other by a few millimetres."}},
                    *at, {a.id, b.id});
        });
    }

    static bool covers(const Item& item) { return item.piece()->piece && item.piece()->piece->covers; }

    /// Corners of the module where walls of a kit meet at a right angle and no corner piece of it stands.
    void rough_corners() {
        struct Corner {
            std::set<int> axes;
            std::vector<ItemId> walls;
            bool covered = false;
        };
        std::map<std::array<long, 3>, Corner> corners;
        const auto key_of = [](const Vec3& p) {
            return std::array{std::lround(p.x * 20), std::lround(p.y * 20), std::lround(p.z * 20)};
        };
        for (const Item* item : items_) {
            const PlacedPiece& placed = *item->piece();
            const auto kit = find_kit(project_, placed.kit_file);
            if (!kit || !placed.piece) continue;
            if (placed.piece->seat == PieceSeat::corner) {
                corners[key_of(placed.place.at)].covered = true;
                continue;
            }
            const bool has_corners =
                std::any_of(kit->pieces.begin(), kit->pieces.end(),
                            [](const auto& piece) { return piece->seat == PieceSeat::corner; });
            if (placed.piece->seat != PieceSeat::edge || !has_corners) continue;
            const Box3 box = box_of(placed);
            const int along = box.high.x - box.low.x > box.high.y - box.low.y ? 0 : 1;
            for (const double end : {box.low[along], box.high[along]}) {
                Vec3 at = placed.place.at;
                at[along] = end;
                Corner& corner = corners[key_of(at)];
                corner.axes.insert(along), corner.walls.push_back(item->id);
            }
        }
        for (const auto& [key, corner] : corners)
            if (!corner.covered && corner.axes.size() > 1)
                add(RuleId::rough_corner,
                    {{"%1 and %2 meet at a corner that is left rough, and their kit has a corner piece.",
                      {corner.walls[0], corner.walls[1]}}},
                    Vec3(double(key[0]), double(key[1]), double(key[2])) / 20.0, corner.walls);
    }

    /// What stands in a room is in its box and not in its place: pieces of different sizes whose matter keeps
    /// apart.
    static bool fits_within(const Item& a, const Item& b) {
        const auto* body_a = a.piece()->piece ? a.piece()->piece->body.get() : nullptr;
        const auto* body_b = b.piece()->piece ? b.piece()->piece->body.get() : nullptr;
        if (!body_a || !body_b) return false;
        const double one = volume_of(body_a->box), other = volume_of(body_b->box);
        return std::max(one, other) > 2 * std::min(one, other);
    }

    void joints() {
        const edit::JointPlaces places(edit::joints_of(project_, level_));
        OpenJoints open;
        for (const edit::PlacedJoint& joint : places.all())
            if (joint.passage && !places.opposite(joint)) open[cell_of(joint.at)].push_back(&joint);
        for (const edit::PlacedJoint& joint : places.all()) {
            const edit::PlacedJoint* other = places.opposite(joint);
            if (!other) {
                if (joint.passage) open_joint(joint, open);
                continue;
            }
            if (other->item < joint.item) continue; // told from the other side
            if ((joint.passage || other->passage) && !joints_fit(joint.kind, other->kind))
                add(RuleId::joint_mismatch,
                    {{"%1 and %2 meet, but do not fit: %3 against %4.",
                      {joint.item, other->item, joint.kind, other->kind}}},
                    joint.at, {joint.item, other->item});
            else if (joint.passage)
                step_over(joint, *other);
        }
    }

    /// Joints that nothing meets, by the cube as wide as `k_near_m` that they lie in.
    using OpenJoints = std::map<std::array<int, 3>, std::vector<const edit::PlacedJoint*>>;
    static std::array<int, 3> cell_of(const Vec3& at) {
        const Vec3 cell = glm::floor(at / k_near_m);
        return {int(cell.x), int(cell.y), int(cell.z)};
    }

    /// One that looks back from nearby and was meant to meet it; null where none does.
    static const edit::PlacedJoint* meant(const edit::PlacedJoint& joint, const OpenJoints& open) {
        const auto [cx, cy, cz] = cell_of(joint.at);
        for (int x = -1; x <= 1; ++x)
            for (int y = -1; y <= 1; ++y)
                for (int z = -1; z <= 1; ++z) {
                    const auto found = open.find({cx + x, cy + y, cz + z});
                    if (found == open.end()) continue;
                    for (const edit::PlacedJoint* other : found->second)
                        if (other->item != joint.item && glm::dot(other->out, joint.out) < -0.99 &&
                            glm::length(other->at - joint.at) <= k_near_m)
                            return other;
                }
        return nullptr;
    }

    void open_joint(const edit::PlacedJoint& joint, const OpenJoints& open) {
        const edit::PlacedJoint* other = meant(joint, open);
        if (!other && level_.part) return; // it leads on where it is used
        if (!other) {
            add(RuleId::joint_open, {{"%1 is open to nothing: %2.", {joint.item, joint.kind}}}, joint.at,
                {joint.item});
            return;
        }
        if (other->item < joint.item) return; // told from the other side
        const Vec3 off = other->at - joint.at;
        const double ahead = glm::dot(off, joint.out), aside = glm::length(off - joint.out * ahead);
        if (aside <= k_met_m && ahead < 0 && declared_overlap(joint.item, other->item) >= -ahead - 1e-6)
            return;
        add(RuleId::joint_gap, {gap_between(joint, *other, ahead, aside)}, joint.at,
            {joint.item, other->item});
    }

    static Sentence gap_between(const edit::PlacedJoint& joint, const edit::PlacedJoint& other, double ahead,
                                double aside) {
        if (aside > k_met_m)
            return {"%1 and %2 are %3 beside each other where they should meet.",
                    {joint.item, other.item, Metres{aside}}};
        if (ahead > 0) return {"Between %1 and %2 is a gap of %3.", {joint.item, other.item, Metres{ahead}}};
        return {"%1 and %2 reach %3 into each other.", {joint.item, other.item, Metres{-ahead}}};
    }

    double declared_overlap(const ItemId& a, const ItemId& b) const {
        double sum = 0;
        for (const ItemId& id : {a, b})
            if (const Item* item = find_item(level_, id); item && item->piece() && item->piece()->piece)
                sum += item->piece()->piece->overlap_m;
        return sum;
    }

    /// The floors to both sides of where two pieces meet.
    void step_over(const edit::PlacedJoint& joint, const edit::PlacedJoint& other) {
        if (std::abs(joint.out.z) > 0.5) return;
        const double half = glm::length(joint.up) / 2;
        const auto floor = [&](double way) -> std::optional<double> {
            const Vec3 at = joint.at + joint.out * (way * k_beside_m);
            const auto below = motion::support_below(*result_.world, {at, 0.02, c_.height_m}, 0,
                                                     half + c_.step_height_m * 2);
            return below ? std::optional(below->height) : std::nullopt;
        };
        const auto here = floor(-1), there = floor(1);
        if (!here || !there) return;
        const double step = std::abs(*here - *there);
        if (step > c_.step_height_m + 1e-3 && step < half)
            add(RuleId::joint_step,
                {{"From %1 to %2 the floor makes a step of %3, higher than %4.",
                  {joint.item, other.item, Metres{step}, Metres{c_.step_height_m}}}},
                joint.at, {joint.item, other.item});
    }

    /// Openings of pieces that their collision closes, once for each piece and collision.
    void closed_openings() {
        std::set<std::pair<const rubble::Piece*, int>> seen;
        for (const Item* item : items_) {
            const PlacedPiece& placed = *item->piece();
            if (!placed.piece || !placed.piece->body) continue;
            const PieceCollisionKind kind = placed.collision.value_or(placed.piece->collision.kind);
            if (kind == PieceCollisionKind::none || kind == PieceCollisionKind::faces) continue;
            if (!seen.insert({placed.piece.get(), int(kind)}).second) continue;
            const auto kit = find_kit(project_, placed.kit_file);
            if (!kit) continue;
            const auto met = build::matter_by(*placed.piece, kind),
                       drawn = build::matter_by(*placed.piece, PieceCollisionKind::faces);
            const PieceCells cells = cells_of(*kit, *placed.piece);
            for (const Joint& joint : placed.piece->joints) {
                if (!joint.passage || !closes(side_of(*kit, cells, joint.cell, joint.side), met, drawn))
                    continue;
                add(RuleId::opening_closed,
                    {{"%1 shows an opening that it is not met as: nobody gets through.", {item->id}},
                     {"Let it be met by its faces, in its facts."}},
                    to_level(placed, side_of(*kit, cells, joint.cell, joint.side).middle), {item->id});
                break;
            }
        }
    }

    static bool closes(const CellSide& side, const std::vector<geometry::ConvexCell>& met,
                       const std::vector<geometry::ConvexCell>& drawn) {
        constexpr int k_samples = 9;
        int open = 0, closed = 0;
        for (int x = 0; x < k_samples; ++x)
            for (int y = 0; y < k_samples; ++y) {
                const Vec3 at = side.middle - side.out * 0.05 + side.right * ((x + 0.5) / k_samples - 0.5) +
                                side.up * ((y + 0.5) / k_samples - 0.5);
                if (holds(drawn, at)) continue;
                ++open, closed += holds(met, at);
            }
        return open > 0 && closed >= k_closed_part * open;
    }

    const Project& project_;
    const Level& level_;
    const CheckResult& result_;
    const Character c_;
    std::vector<const Item*> items_;
    std::map<RuleId, int> told_;
    std::vector<Finding> out_;
};

} // namespace

std::vector<Finding> find_in_pieces(const Project& project, const Level& level, const CheckResult& result) {
    return PieceFinder(project, level, result).run();
}

} // namespace rubble::check
