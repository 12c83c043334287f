#include "check/mends.h"

#include <cmath>
#include <set>

#include "base/angle.h"
#include "base/tolerance.h"
#include "check/flight.h"
#include "check/other_metrics.h"
#include "check/tile_mends.h"
#include "edit/items.h"

namespace rubble::check {

using motion::World;

namespace {

constexpr size_t k_most_mends = 3;

double round_up(double value, double step) {
    return step > 0 ? std::ceil(value / step - 1e-9) * step : value;
}

/// Items that stand on a brush and go with it when it is moved.
std::vector<const Item*> standing_on(const Level& level, const Item& brush) {
    std::vector<const Item*> out;
    const Box3 box = box_of(brush);
    for (const Item* item : elements_of(level)) {
        const Vec3& at = item->element()->at;
        if (at.x >= box.low.x && at.x <= box.high.x && at.y >= box.low.y && at.y <= box.high.y &&
            std::abs(at.z - box.high.z) < 0.05)
            out.push_back(item);
    }
    return out;
}

/// Looks for mends of one near miss, each tried with the level as it would be.
class Mender {
public:
    Mender(const Project& project, const Level& level, const World& world, build::SolidBuilder& trials,
           const NearMiss& miss, const Cancel& cancel)
        : project_(project),
          level_(level),
          world_(world),
          trials_(trials),
          miss_(miss),
          cancel_(cancel),
          c_(character_of(project, level)),
          grid_(project.grid_m > 0 ? project.grid_m : 0.25) {}

    std::vector<Mend> run() {
        paint_cells();
        if (miss_.limit == Limit::gap) bring_nearer();
        if (miss_.limit == Limit::gap || miss_.limit == Limit::height || miss_.limit == Limit::step) lower();
        if (miss_.limit == Limit::gap || miss_.limit == Limit::height ||
            (miss_.limit == Limit::step && miss_.landing_column >= 0))
            put_step();
        if (miss_.limit == Limit::fall) lift_ground();
        if (miss_.limit == Limit::slope) flatten();
        if (miss_.limit == Limit::width || miss_.limit == Limit::headroom) clear_the_way();
        if (mends_.empty() && tight_.empty()) clear_between();
        return mends_.empty() ? one_each(std::move(tight_)) : std::move(mends_);
    }

private:
    /// Of those that change the same items in the same way the last one, which goes farthest.
    static std::vector<Mend> one_each(std::vector<Mend> mends) {
        std::vector<Mend> out;
        for (Mend& mend : mends) {
            const bool again = !out.empty() && !out.back().edits.empty() && !mend.edits.empty() &&
                               out.back().edits[0].item.id == mend.edits[0].item.id && !mend.edits[0].added &&
                               !out.back().edits[0].added;
            if (again)
                out.back() = std::move(mend);
            else
                out.push_back(std::move(mend));
        }
        if (out.size() > k_most_mends) out.resize(k_most_mends);
        return out;
    }

    const Item* item_of(int column) const {
        if (column < 0) return nullptr;
        return find_item(level_, world_.source_of(world_.columns()[size_t(column)]).id.item);
    }

    /// Whether the wanted place is reached with the mend; then it is kept.
    bool keep_if_it_works(Mend mend) {
        if (mends_.size() >= k_most_mends || cancel_.requested()) return true;
        const Trial trial = tried(project_, mended(level_, mend), trials_, miss_.from, miss_.to, cancel_);
        if (trial.reached != Reached::yes) return false;
        mend.grade = trial.hardest;
        if (trial.hardest) mend.says.push_back({"The jump is %1 then.", {Term{grade_key(*trial.hardest)}}});
        // Nobody asked for a jump that hardly works: a tight one stands in for a fair one that is not found.
        if (trial.hardest == Grade::tight) {
            tight_.push_back(std::move(mend));
            return false;
        }
        mends_.push_back(std::move(mend));
        return true;
    }

    Mend moved(const Item& item, const Vec3& by) const {
        Mend mend;
        const Transform way = Transform::moving(by);
        mend.edits.push_back({transformed(item, way)});
        for (const Item* rider : standing_on(level_, item)) mend.edits.push_back({transformed(*rider, way)});
        return mend;
    }

    /// Tries growing distances, a grid step more each time. `what` names the move, with %1 for the item and
    /// %2 for the distance.
    void try_moves(const Item& item, const Vec3& direction, double least, const char* what) {
        for (int more = 0; more < 6; ++more) {
            const double by = round_up(least, grid_) + more * grid_;
            Mend mend = moved(item, direction * by);
            mend.says = {{what, {item.id, Metres{by}}}};
            if (keep_if_it_works(std::move(mend))) return;
        }
    }

    /// The layer of tiles that a column belongs to; empty where it belongs to none.
    LayerId layer_of(int column) const {
        if (column < 0) return {};
        const ItemId& source = world_.source_of(world_.columns()[size_t(column)]).id.item;
        for (const auto& layer : level_.layers)
            if (motion::stands_for(source, layer->id)) return layer->id;
        return {};
    }

    /// Of each way of painting cells the smallest that helps.
    void paint_cells() {
        LayerId layer = layer_of(miss_.landing_column);
        if (layer.empty()) layer = layer_of(miss_.take_off_column);
        for (std::vector<Mend>& same : cell_mends(level_, layer, miss_, c_))
            for (Mend& mend : same)
                if (keep_if_it_works(std::move(mend))) break;
    }

    /// What lies in the way of walking straight across, where a flight was not to be mended.
    void clear_between() {
        if (miss_.limit != Limit::gap || miss_.landing_column < 0) return;
        std::vector<Vec3> feet;
        const Vec3 way = miss_.landing - miss_.take_off;
        const int steps = std::max(1, int(std::ceil(glm::length(way) / std::max(c_.radius_m, 0.05))));
        for (int i = 0; i <= steps; ++i) feet.push_back(miss_.take_off + way * (double(i) / steps));
        for (const bool crouched : {true, false})
            for (Mend& mend : clearing_mends(level_, feet, c_, crouched && c_.crouched_height_m > 0))
                if (keep_if_it_works(std::move(mend))) return;
    }

    void bring_nearer() {
        const Item* item = item_of(miss_.landing_column);
        if (!item) return;
        const Vec3 way = miss_.landing - miss_.take_off;
        // Along the axis that the gap runs along most, so that the brush stays on the grid.
        const bool along_x = std::abs(way.x) >= std::abs(way.y);
        const double part = std::abs(along_x ? way.x : way.y) / std::max(glm::length(flat(way)), 1e-9);
        const Vec3 direction = along_x ? Vec3(way.x > 0 ? -1 : 1, 0, 0) : Vec3(0, way.y > 0 ? -1 : 1, 0);
        try_moves(*item, direction, miss_.missing_m / std::max(part, 0.1), "Bring %1 nearer by %2.");
    }

    void lower() {
        const Item* item = item_of(miss_.landing_column);
        if (!item) return;
        double least = miss_.missing_m;
        if (miss_.limit == Limit::gap) { // the lower the landing the longer the flight
            least = 0;
            for (double by = grid_; by <= 4; by += grid_)
                if (longest_gap(c_, miss_.rise_m - by).value_or(0) >= miss_.gap_m) {
                    least = by;
                    break;
                }
            if (least == 0) return;
        }
        try_moves(*item, {0, 0, -1}, least, "Lower %1 by %2.");
    }

    /// A box between take-off and landing, as high as both allow.
    void put_step() {
        const Vec2 way = flat(miss_.landing - miss_.take_off);
        const double length = glm::length(way);
        const Vec2 direction = length > 1e-6 ? way / length : Vec2(1, 0);
        const double size = std::max(grid_, round_up(2 * c_.radius_m, grid_));
        for (const double part : {0.5, 0.75}) {
            for (const double height : {0.5, 0.75}) {
                const double top = miss_.take_off.z + miss_.rise_m * height;
                const double rise = round_up(std::max(top - miss_.take_off.z, 0.0), grid_ / 2);
                Vec2 at = flat(miss_.take_off) + direction * (length * part);
                // Where landing and take-off nearly touch, the step stands before the landing.
                if (length < size) at = flat(miss_.landing) - direction * (overhang_m(c_) + size / 2);
                Brush step;
                step.place.at = {std::round(at.x / grid_ * 2) * grid_ / 2,
                                 std::round(at.y / grid_ * 2) * grid_ / 2,
                                 rise > 0 ? miss_.take_off.z : miss_.take_off.z - grid_};
                step.size = {size, size, rise > 0 ? rise : grid_};
                Mend mend;
                Item item{edit::fresh_id(level_, "b"), "Step", false, step, {}};
                mend.edits.push_back({item, true});
                mend.says = {rise > 0 ? Sentence{"Put a step %1 high before it.", {Metres{rise}}}
                                      : Sentence{"Put a deck at the same height half-way."}};
                if (keep_if_it_works(std::move(mend))) return;
            }
        }
    }

    void lift_ground() {
        if (const Item* item = item_of(miss_.landing_column))
            try_moves(*item, {0, 0, 1}, miss_.missing_m, "Raise %1 by %2.");
    }

    /// Ramps that are too steep are made longer, away from their upper end.
    void flatten() {
        for (const auto& ordered : ordered_brushes(level_)) {
            const Brush& brush = *ordered.brush;
            if (brush.shape != Shape::ramp || brush.effect != Effect::fill || brush.place.rotation) continue;
            const double deg = degrees(std::atan2(brush.size.z, brush.size.x));
            if (deg <= c_.max_slope_deg + tolerance::limit_deg ||
                deg > c_.max_slope_deg + miss_.missing_deg + 1)
                continue;
            const double needed = round_up(brush.size.z / std::tan(radians(c_.max_slope_deg)), grid_);
            Mend mend;
            Brush longer = brush;
            longer.place.at -= brush.place.direction({(needed - brush.size.x) / 2, 0, 0});
            longer.size.x = needed;
            Item item = *ordered.item;
            item.body = std::move(longer);
            mend.edits.push_back({std::move(item)});
            mend.says = {{"Make %1 %2 long.", {ordered.item->id, Metres{needed}}}};
            keep_if_it_works(std::move(mend));
        }
    }

    /// A smaller body gets through: what would touch the true one on that way is moved aside, or up.
    void clear_the_way() {
        Character small = c_;
        const double by = miss_.missing_m * 1.02 + 0.01;
        if (miss_.limit == Limit::width)
            small.radius_m -= by / 2, small.least_support_m = 0;
        else
            small.height_m -= by, small.crouched_height_m = std::max(0.0, small.crouched_height_m - by);
        const Element *from = find_item(level_, miss_.from)->element(),
                      *to = find_item(level_, miss_.to)->element();
        OtherMetrics others(world_, cancel_);
        std::optional<Witness> witness;
        others.ask(small, from->at, to->at, &witness);
        if (!witness) return;
        std::vector<Vec3> feet;
        bool crouched = false;
        for (const auto& state : motion::replay(world_, small, witness->recording))
            feet.push_back(state.at), crouched |= state.crouched;
        for (Mend& mend : clearing_mends(level_, feet, c_, crouched)) keep_if_it_works(std::move(mend));
        std::set<int> in_the_way;
        for (const auto& state : motion::replay(world_, small, witness->recording)) {
            const motion::Body body{state.at + Vec3(0, 0, c_.step_height_m), c_.radius_m,
                                    (state.crouched ? c_.crouched_height_m : c_.height_m) - c_.step_height_m};
            world_.for_near(Box2{flat(body.at), flat(body.at)}.grown(body.radius), [&](int i) {
                const auto range = world_.columns()[size_t(i)].over_disc(flat(body.at), body.radius - 1e-4);
                if (range && range->high > body.at.z + 1e-3 && range->low < body.at.z + body.height - 1e-3)
                    in_the_way.insert(world_.columns()[size_t(i)].source);
            });
        }
        for (int source : in_the_way) {
            const Item* item = find_item(level_, world_.sources()[size_t(source)].id.item);
            if (!item) continue;
            if (miss_.limit == Limit::headroom) {
                try_moves(*item, {0, 0, 1}, miss_.missing_m, "Raise %1 by %2.");
                continue;
            }
            for (const Vec3& direction : {Vec3(1, 0, 0), Vec3(-1, 0, 0), Vec3(0, 1, 0), Vec3(0, -1, 0)}) {
                const size_t before = mends_.size();
                const double least = round_up(miss_.missing_m, grid_);
                Mend mend = moved(*item, direction * least);
                mend.says = {{"Move %1 aside by %2.", {item->id, Metres{least}}}};
                keep_if_it_works(std::move(mend));
                if (mends_.size() > before) break;
            }
        }
    }

    const Project& project_;
    const Level& level_;
    const World& world_;
    build::SolidBuilder& trials_;
    const NearMiss& miss_;
    const Cancel& cancel_;
    const Character c_;
    const double grid_;
    std::vector<Mend> mends_, tight_;
};

} // namespace

std::vector<Mend> find_mends(const Project& project, const Level& level, const World& world,
                             build::SolidBuilder& trials, const NearMiss& miss, const Cancel& cancel) {
    return Mender(project, level, world, trials, miss, cancel).run();
}

} // namespace rubble::check
