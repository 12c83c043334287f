#include "check/findings.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <iterator>
#include <limits>
#include <map>
#include <set>
#include <utility>

#include "base/angle.h"
#include "base/parallel.h"
#include "base/tolerance.h"
#include <nlohmann/json.hpp>

#include "check/dress_rules.h"
#include "check/element_rules.h"
#include "check/flight.h"
#include "check/piece_rules.h"
#include "check/play_rules.h"
#include "check/prop_rules.h"
#include "check/slivers.h"
#include "check/tile_rules.h"
#include "edit/finals.h"
#include "level/tiles/laid_tiles.h"

namespace rubble::check {

using geometry::ConvexArea;

using motion::Column;
using motion::World;

namespace {

/// A fit that fails by less than this is worth a word.
constexpr double k_near_fit_m = 0.15;
constexpr double k_near_fit_deg = 5;

/// A convex body beside a way.
struct Wall {
    int source = 0;
    double low = std::numeric_limits<double>::infinity(), high = -low;
    const ConvexArea* area = nullptr; ///< in plan, of a round body between the knee and the head
};

class Finder {
public:
    Finder(const Project& project, const Level& level, const CheckResult& result)
        : project_(project),
          level_(level),
          result_(result),
          world_(*result.world),
          ground_(*result.ground),
          c_(character_of(project, level)),
          who_(character_name(project, level)) {}

    /// What is looked for, one after the other; none depends on what another finds. @{
    using Part = void (Finder::*)();
    static constexpr size_t part_count = 16;
    static constexpr std::array<Part, part_count> parts();
    std::vector<Finding> found_by(Part part) {
        (this->*part)();
        return std::move(out_);
    }
    /// @}

private:
    void add(RuleId rule, Sentences says, const Vec3& at, std::vector<ItemId> items) {
        add(rule, rule_of(rule).severity, std::move(says), at, std::move(items));
    }
    void add(RuleId rule, Severity severity, Sentences says, const Vec3& at, std::vector<ItemId> items) {
        out_.push_back({rule, severity, std::move(says), at, std::move(items)});
    }

    void in_tiles() { out_ = find_in_tiles(project_, with_tiles_laid(level_), result_); }
    void in_kind_of_play() { out_ = find_in_kind_of_play(project_, level_, result_); }
    void in_elements() { out_ = find_in_elements(project_, level_, result_); }
    void in_dress() { out_ = find_in_dress(project_, level_, result_); }
    /// Final models beside what they stand for.
    void finals() {
        constexpr double k_fits_m = 0.05;
        for_each_item(level_, [&](const Item& item, const Layer&) {
            const ItemId grey = edit::grey_of(item);
            const Item* brush = grey.empty() ? nullptr : find_item(level_, grey);
            if (!grey.empty() && (!brush || !brush->brush()))
                return add(RuleId::final_misfit, {{"What %1 replaces is gone.", {item.id}}},
                           item.piece()->place.at, {item.id});
            if (!brush || !item.piece()->piece) return;
            const Box3 is = box_of(item), was = box_of(*brush);
            const Vec3 off = glm::max(glm::abs(is.low - was.low), glm::abs(is.high - was.high));
            const double most = std::max({off.x, off.y, off.z});
            if (most > k_fits_m)
                add(RuleId::final_misfit,
                    {{"%1 reaches %2 otherwise than the grey %3 that it replaces.",
                      {item.id, Metres{most}, brush->id}}},
                    item.piece()->place.at, {item.id, brush->id});
        });
    }
    /// What a merge left to be decided. The list is kept as it is in the file; here it only counts.
    void conflicts() {
        const auto kept = level_.extra.find("conflicts");
        if (kept == level_.extra.end()) return;
        const auto list = nlohmann::json::parse(kept->second, nullptr, false);
        if (!list.is_array() || list.empty()) return;
        add(RuleId::merge_conflict,
            {{"%1 things were changed by both sides of a merge. Decide them in Hand off.",
              {std::to_string(list.size())}}},
            Vec3(0), {});
    }
    void in_props() { out_ = find_in_props(project_, level_, result_); }
    void in_pieces() { out_ = find_in_pieces(project_, level_, result_); }

    ItemId id_of(const Column& column) const { return world_.source_of(column).id.item; }

    void starts_and_goals() {
        const auto starts = elements_of(level_, Role::start);
        if (starts.empty() && !level_.part)
            add(RuleId::start_none, {{"The level has no start. Place one in Populate."}}, {}, {});
        if (elements_of(level_, Role::goal).empty() && !level_.part)
            add(RuleId::goal_none, {{"The level has no goal. Place one in Populate."}}, {}, {});
        for (const Item* start : starts) {
            const Vec3 at = met_at(level_, *start->element());
            const motion::State state = motion::state_at(world_, c_, at);
            const motion::Body body{state.at, c_.radius_m - tolerance::limit_m,
                                    c_.height_m - tolerance::limit_m};
            if (overlap_m(world_, body) > tolerance::limit_m) {
                add(RuleId::start_in_matter, {{"%1 is inside matter. Move it to free ground.", {start->id}}},
                    at, {start->id});
                continue;
            }
            const bool over_nothing = !state.standing && !arrival_at_start(world_, c_, at);
            if (const Layer* drawn =
                    over_nothing || level_.frame == Frame::plan ? drawn_below(level_, at) : nullptr;
                drawn && (over_nothing || nothing_is_solid()))
                add(RuleId::start_not_solid,
                    {{"What is drawn in layer %1 under %2 is not solid for %3.",
                      {drawn->name, start->id, who_}},
                     {"Make the layer solid, or paint what collides in another one."}},
                    at, {start->id});
            else if (over_nothing)
                add(RuleId::start_over_nothing,
                    {{"%1 has no ground below it that %2 could land on alive.", {start->id, who_}}}, at,
                    {start->id});
        }
    }

    bool nothing_is_solid() const {
        const Level laid = with_tiles_laid(level_);
        return std::none_of(laid.layers.begin(), laid.layers.end(),
                            [](const auto& layer) { return layer->tiles && (*layer->tiles)->solid; });
    }

    void unreached() {
        for (const Place& place : result_.places) {
            const Item* item = find_item(level_, place.item);
            if (place.reached == Reached::yes || !item) continue;
            // A place that must not be reached, or is only named, is no trouble by itself.
            const Role role = role_of(*item->element());
            if (role == Role::place || role == Role::note || role == Role::device) continue;
            const ItemId& id = item->id;
            const Vec3 at = met_at(level_, *item->element());
            if (place.reached == Reached::with_help)
                add(RuleId::element_with_help, {{"%1 is reached only with a late jump.", {id}}}, at, {id});
            else if (place.reached == Reached::undecided)
                add(RuleId::element_undecided, {{"%1: whether it is reached could not be decided.", {id}}},
                    at, {id});
            else
                add(RuleId::element_unreachable, {{"%1 is not reached from the start.", {id}}}, at, {id});
        }
    }

    /// Edges between neighbouring ground that are a little higher than a step.
    void lips() {
        std::set<std::pair<int, int>> seen;
        for (size_t f = 0; f < ground_.fragments.size(); ++f)
            for (const Portal& portal : ground_.fragments[f].portals) {
                const double height = -portal.rise;
                if (portal.walked || height <= c_.step_height_m + tolerance::limit_m ||
                    height > c_.step_height_m + k_near_fit_m)
                    continue;
                const Column& upper =
                    world_.columns()[size_t(ground_.tops[size_t(ground_.fragments[f].top)].column)];
                const Column& lower = world_.columns()[size_t(
                    ground_.tops[size_t(ground_.fragments[size_t(portal.to)].top)].column)];
                if (!seen.insert({upper.source, lower.source}).second) continue;
                Sentences says{{"Lip of %1 at %2: %3 too high for %4 to step.",
                                {Metres{height}, id_of(upper), Metres{height - c_.step_height_m}, who_}}};
                if (highest_ledge(c_) > height)
                    says.push_back({"A jump leaves %1.", {Metres{highest_ledge(c_) - height}}});
                add(RuleId::walk_lip, std::move(says),
                    raised(portal.middle(), ground_.feet_at(int(f), portal.middle())), {id_of(upper)});
            }
    }

    void slopes() {
        std::set<int> seen;
        for (const Column& column : world_.columns()) {
            const double deg = column.slope_deg;
            if (deg <= c_.max_slope_deg + tolerance::limit_deg || deg > c_.max_slope_deg + k_near_fit_deg)
                continue;
            if (!seen.insert(column.source).second) continue;
            add(RuleId::walk_slope,
                {{"%1 slopes %2: %3 too steep for %4.",
                  {id_of(column), Degrees{deg}, Degrees{deg - c_.max_slope_deg}, who_}}},
                raised(geometry::middle_of(column.area), (column.low + column.high) / 2), {id_of(column)});
        }
    }

    bool in_matter(const Vec3& p) const {
        return motion::overlap_m(world_, {p, tolerance::limit_m * 10, tolerance::limit_m * 10}) > 0;
    }

    ItemId id_of(const Wall& wall) const { return world_.sources()[size_t(wall.source)].id.item; }

    /// All bodies, each at the place of its first column, and which one every column belongs to.
    std::pair<std::vector<Wall>, std::vector<int>> walls() const {
        const auto& columns = world_.columns();
        std::vector<Wall> walls(columns.size());
        std::vector<int> body_of(columns.size());
        for (int i = 0; i < int(columns.size()); ++i) {
            const Column& column = columns[size_t(i)];
            const int body = body_of[size_t(i)] = column.cell.count > 1 ? column.cell.first : i;
            Wall& wall = walls[size_t(body)];
            wall.source = column.source, wall.area = &columns[size_t(body)].area;
            wall.low = std::min(wall.low, column.low), wall.high = std::max(wall.high, column.high);
        }
        return {std::move(walls), std::move(body_of)};
    }

    ConvexArea beside(const Column::Cell& cell, double floor) const {
        std::vector<Vec2> corners;
        for (int i = cell.first; i < cell.first + cell.count; ++i)
            for (Vec2 p : world_.columns()[size_t(i)].between(floor + c_.step_height_m, floor + c_.height_m))
                corners.push_back(p);
        return geometry::hull(std::move(corners));
    }

    /// Two walls on the same ground with a little less than the body's width between them.
    void narrow_passages() {
        const double width = 2 * c_.radius_m;
        std::set<std::pair<int, int>> seen;
        const auto& columns = world_.columns();
        const auto [walls, body_of] = this->walls();
        std::map<std::pair<int, double>, ConvexArea> round; // by body and floor
        const auto wall_at = [&](int body, double floor) {
            Wall out = walls[size_t(body)];
            if (const Column::Cell& cell = columns[size_t(body)].cell; cell.count > 1) {
                const auto [at, is_new] = round.try_emplace({body, floor});
                if (is_new) at->second = beside(cell, floor);
                out.area = &at->second;
            }
            return out;
        };
        std::vector<int> met_by(columns.size(), -1); // the body that looked at this one last
        for (int i = 0; i < int(columns.size()); ++i) {
            const int body = body_of[size_t(i)];
            world_.for_near(columns[size_t(i)].box.grown(width), [&](int k) {
                const int other = body_of[size_t(k)];
                if (other <= body || std::exchange(met_by[size_t(other)], body) == body) return;
                const double low = std::max(walls[size_t(body)].low, walls[size_t(other)].low);
                const double high = std::min(walls[size_t(body)].high, walls[size_t(other)].high);
                if (high - low < c_.step_height_m) return;
                const Wall a = wall_at(body, low), b = wall_at(other, low);
                if (a.source == b.source || a.area->size() < 3 || b.area->size() < 3) return;
                const auto pair = geometry::nearest(*a.area, *b.area);
                if (pair.distance >= width - tolerance::limit_m || pair.distance < width - k_near_fit_m)
                    return;
                if (seen.contains({a.source, b.source})) return;
                report_passage(a, b, pair, low, width, seen);
            });
        }
    }

    void report_passage(const Wall& a, const Wall& b, const geometry::NearestPair& pair, double low,
                        double width, std::set<std::pair<int, int>>& seen) {
        const Vec2 middle = (pair.on_a + pair.on_b) * 0.5;
        const auto floor = support_below(world_, {raised(middle, low), c_.radius_m / 2, 0}, c_.step_height_m,
                                         c_.step_height_m);
        if (!floor || std::min(a.high, b.high) < floor->height + c_.step_height_m + tolerance::limit_m)
            return;
        if (in_matter(raised(middle, floor->height + c_.step_height_m + 0.01))) return;
        // It leads somewhere: there is ground before and behind it.
        const Vec2 along = left_of((pair.on_b - pair.on_a) / pair.distance);
        auto ground_on = [&](double side) {
            for (double far : {0.5, 1.0, 1.5, 2.0, 3.0})
                if (ground_.locate(raised(middle + along * (side * (far + c_.radius_m)), floor->height),
                                   c_.step_height_m) >= 0)
                    return true;
            return false;
        };
        if (!ground_on(1) || !ground_on(-1)) return;
        seen.insert({a.source, b.source});
        add(RuleId::walk_narrow,
            {{"Passage of %1 between %2 and %3 is %4 too narrow for %5.",
              {Metres{pair.distance}, id_of(a), id_of(b), Metres{width - pair.distance}, who_}}},
            raised(middle, floor->height), {id_of(a), id_of(b)});
    }

    /// Ceilings a little lower than the body, upright or, where it cannot crouch below them, crouched.
    void low_passages() {
        std::set<std::pair<int, int>> seen;
        const auto& columns = world_.columns();
        std::vector<double> heights{c_.height_m};
        if (c_.crouched_height_m > 0) heights.push_back(c_.crouched_height_m);
        for (const Column& floor : columns) {
            if (!motion::is_ground(c_, floor)) continue;
            world_.for_near(floor.box, [&](int k) {
                const Column& ceiling = columns[size_t(k)];
                for (double needed : heights) {
                    const double room = ceiling.low - floor.high;
                    if (ceiling.one_way()) break; // one comes up through it
                    if (room >= needed - tolerance::limit_m || room < needed - k_near_fit_m ||
                        &ceiling == &floor)
                        continue;
                    const auto both = geometry::common(floor.area, ceiling.area);
                    if (both.empty() || seen.contains({floor.source, ceiling.source})) continue;
                    const Vec2 middle = geometry::middle_of(both);
                    if (in_matter(raised(middle, floor.high + 0.01)) ||
                        in_matter(raised(middle, floor.high + room / 2)))
                        continue;
                    seen.insert({floor.source, ceiling.source});
                    const bool crouched = needed < c_.height_m;
                    const char* text = crouched ? "Headroom of %1 under %2 is %3 too low for %4 crouched."
                                                : "Headroom of %1 under %2 is %3 too low for %4 upright.";
                    add(RuleId::walk_headroom,
                        crouched || c_.crouched_height_m <= 0 ? Severity::concern : Severity::remark,
                        {{text, {Metres{room}, id_of(ceiling), Metres{needed - room}, who_}}},
                        raised(middle, floor.high), {id_of(floor), id_of(ceiling)});
                }
            });
        }
    }

    /// Ceilings that keep the character from a jump that would lead where nothing leads.
    void low_jumps() {
        std::set<int> seen;
        for (const NearMiss& miss : result_.near_misses) {
            if (miss.limit != Limit::gap && miss.limit != Limit::height) continue;
            const double full = miss.take_off.z + c_.height_m + c_.jump_height_m,
                         least = std::max(miss.take_off.z, miss.landing.z) + c_.crouched_height_m;
            const Vec2 from = flat(miss.take_off), way = flat(miss.landing) - from;
            if (longest_gap(c_, miss.rise_m).value_or(-1) < miss.gap_m) continue; // it is too wide anyhow
            Box2 box;
            box.add(from), box.add(from + way);
            const Column* lowest = nullptr;
            world_.for_near(box.grown(c_.radius_m), [&](int k) {
                const Column& column = world_.columns()[size_t(k)];
                if (column.one_way() || column.low >= full - tolerance::limit_m || column.low < least) return;
                constexpr int k_parts = 8;
                for (int i = 0; i <= k_parts; ++i)
                    if (column.over_disc(from + way * (double(i) / k_parts), c_.radius_m) &&
                        (!lowest || column.low < lowest->low))
                        lowest = &column;
            });
            if (!lowest || !seen.insert(lowest->source).second) continue;
            add(RuleId::walk_low_jump,
                {{"%1 hangs %2 over a take-off: %3 too low for %4 to jump to full height.",
                  {id_of(*lowest), Metres{lowest->low - miss.take_off.z}, Metres{full - lowest->low}, who_}}},
                miss.take_off, {id_of(*lowest)});
        }
    }

    void slivers() {
        for (const Sliver& sliver : slivers_of(level_, *result_.solid)) {
            std::vector<ItemId> items{result_.solid->brushes[size_t(sliver.brush)]->item};
            if (sliver.beside >= 0) items.push_back(result_.solid->brushes[size_t(sliver.beside)]->item);
            const Millimetres width{sliver.width_m * 1000};
            Sentences says;
            if (sliver.kind == Sliver::Kind::face && items.size() < 2)
                says = {{"A face of %1 is only %2 wide.", {items[0], width}}};
            else if (sliver.kind == Sliver::Kind::face)
                says = {{"A face of %1 is only %2 wide beside %3.", {items[0], width, items[1]}}};
            else
                says = {{sliver.kind == Sliver::Kind::gap ? "Gap of %1 between %2 and %3."
                                                          : "Wall of %1 between %2 and %3.",
                         {width, items[0], items[1]}}};
            if (items.size() > 1) says.push_back({"Move one so that they meet."});
            add(RuleId::build_sliver, std::move(says), sliver.at, std::move(items));
        }
    }

    const Project& project_;
    const Level& level_;
    const CheckResult& result_;
    const World& world_;
    const Ground& ground_;
    const Character c_;
    const std::string who_;
    std::vector<Finding> out_;
};

constexpr std::array<Finder::Part, Finder::part_count> Finder::parts() {
    return {&Finder::starts_and_goals, &Finder::unreached,       &Finder::lips,        &Finder::slopes,
            &Finder::narrow_passages,  &Finder::low_passages,    &Finder::slivers,     &Finder::low_jumps,
            &Finder::in_tiles,         &Finder::in_kind_of_play, &Finder::in_elements, &Finder::in_pieces,
            &Finder::in_dress,         &Finder::in_props,        &Finder::conflicts,   &Finder::finals};
}

} // namespace

std::vector<Finding> find_findings(const Project& project, const Level& level, const CheckResult& result) {
    constexpr auto parts = Finder::parts();
    std::vector<std::vector<Finding>> found(parts.size());
    parallel_for(parts.size(),
                 [&](size_t i) { found[i] = Finder(project, level, result).found_by(parts[i]); });
    std::vector<Finding> out;
    for (std::vector<Finding>& some : found)
        out.insert(out.end(), std::make_move_iterator(some.begin()), std::make_move_iterator(some.end()));
    return out;
}

} // namespace rubble::check
