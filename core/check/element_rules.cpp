#include "check/element_rules.h"

#include <algorithm>
#include <array>
#include <cstdio>
#include <set>

#include "base/tolerance.h"
#include "edit/items.h"
#include "level/element_kinds.h"
#include "level/element_values.h"
#include "level/order.h"
#include "motion/cells/letter.h"
#include "motion/cells/rules.h"
#include "motion/elements.h"

namespace rubble::check {

namespace {

/// A foe should be farther than this from where play begins (metres).
constexpr double k_foe_far_m = 3;
/// What moves may come this near to matter (metres), and is looked at so often (steps).
constexpr double k_scrape_m = 0.02;
constexpr int k_look_steps = 12;
/// How far apart places of a door are where somebody may fit through (metres).
constexpr double k_aside_m = 0.1;
/// So many keys are looked at closer, each by a search.
constexpr int k_most_keys = 4;

class ElementFinder {
public:
    ElementFinder(const Project& project, const Level& level, const CheckResult& result)
        : project_(project),
          level_(level),
          result_(result),
          elements_(elements_of(level)) {}

    std::vector<Finding> run() {
        for (const Item* item : elements_) {
            const std::string& kind = acts_as(*item->element());
            if (kind == "door") door(*item);
            if (kind == "gate") gate(*item);
            if (kind == "switch") unheard(*item);
            if (kind == "foe") foe(*item);
            refers(*item);
            if (kind == "key") key(*item);
        }
        if (const auto& elements = result_.world->elements()) {
            for (const auto& lift : elements->lifts) crushes(*elements, lift);
            for (const auto& foe : elements->foes)
                if (foe.way == motion::FoeWay::drawn) goes_freely(*elements, foe);
            for (const auto& crate : elements->crates) crate_freely(*elements, crate);
            for (const auto& door : elements->doors) opens_onto_matter(*elements, door);
        }
        if (const auto& puzzle = result_.world->moving().puzzle)
            for (size_t i = 0; i < puzzle->crates.size(); ++i) crate(*puzzle, int(i));
        counts();
        time_limit();
        return std::move(out_);
    }

private:
    /// As many of a kind as the project wants in each level.
    void counts() {
        for (const auto& kind : project_.element_kinds) {
            std::vector<const Item*> there;
            std::copy_if(elements_.begin(), elements_.end(), std::back_inserter(there),
                         [&](const Item* item) { return item->element()->kind == kind->key; });
            const std::string& name = kind->name.empty() ? kind->key : kind->name;
            const std::string count = std::to_string(there.size());
            if (kind->at_most >= 0 && int(there.size()) > kind->at_most)
                add(RuleId::too_many,
                    {{"%1 is one too many: there are %2 of %3, and at most %4 are allowed.",
                      {there[size_t(kind->at_most)]->id, count, name, std::to_string(kind->at_most)}}},
                    *there[size_t(kind->at_most)]);
            if (int(there.size()) < kind->at_least && !result_.starts.empty())
                out_.push_back({RuleId::too_few,
                                rule_of(RuleId::too_few).severity,
                                {{"There are %1 of %2, and at least %3 are wanted.",
                                  {count, name, std::to_string(kind->at_least)}}},
                                result_.starts[0],
                                {}});
        }
    }

    /// The quickest way to a goal that is known takes longer than the level allows.
    void time_limit() {
        const auto& elements = result_.world->elements();
        const auto& puzzle = result_.world->moving().puzzle;
        for (const Item* item : elements_) {
            if (acts_as(*item->element()) != "time_limit") continue;
            const double limit_s = puzzle     ? 0
                                   : elements ? elements->limit_s
                                              : number_of(*item->element(), "seconds");
            for (const Place& place : result_.places) {
                const Item* goal = find_item(level_, place.item);
                if (!goal || role_of(*goal->element()) != Role::goal || place.reached != Reached::yes)
                    continue;
                if (limit_s <= 0 || place.time_s <= limit_s) continue;
                add(RuleId::out_of_time,
                    {{"The way to %1 takes %2 of the %3 that %4 allows.",
                      {goal->id, seconds(place.time_s), seconds(limit_s), item->id}}},
                    *item, {goal->id});
            }
        }
    }

    static std::string seconds(double value) {
        std::array<char, 32> text{};
        std::snprintf(text.data(), text.size(), "%.1f s", value);
        return text.data();
    }

    /// Where a door is open there is no room for anybody to go through.
    void opens_onto_matter(const motion::PlayElements& elements, const motion::PlayElements::Door& door) {
        const Item* item = find_item(level_, door.id);
        if (!item) return;
        std::vector<motion::SourceId> gone{door.source()};
        for (const auto& lift : elements.lifts) gone.push_back(lift.source());
        std::sort(gone.begin(), gone.end());
        const motion::World& world = result_.world->without(gone);
        const double r = result_.character.radius_m - k_scrape_m, high = result_.character.height_m;
        const bool along_x = door.room.size.x >= door.room.size.y;
        const double wide = along_x ? door.room.size.x : door.room.size.y;
        for (double aside = -wide / 2; aside <= wide / 2; aside += k_aside_m) {
            const Vec3 at = door.room.place.to_level(along_x ? Vec3(aside, 0, 0) : Vec3(0, aside, 0));
            // A threshold that one steps onto is no matter to anybody.
            for (const double up : {2 * k_scrape_m, result_.character.step_height_m})
                if (overlap_m(world, {at + Vec3(0, 0, up), r, high - 4 * k_scrape_m}) <= tolerance::limit_m)
                    return;
            if (world.flat_on()) break;
        }
        add(RuleId::door_no_room, {{"Where %1 opens nobody fits through.", {item->id}}}, *item);
    }

    /// From no side is there room to stand behind it, or for it to go on.
    void crate_freely(const motion::PlayElements& elements, const motion::PlayElements::Crate& crate) {
        const Item* item = find_item(level_, crate.id);
        if (!item) return;
        std::vector<motion::SourceId> movers;
        for (const auto& lift : elements.lifts) movers.push_back(lift.source());
        movers.push_back(crate.source());
        std::sort(movers.begin(), movers.end());
        const motion::World& world = result_.world->without(movers);
        const double r = result_.character.radius_m - tolerance::limit_m;
        for (const Vec3 own : {Vec3(1, 0, 0), Vec3(0, 1, 0), Vec3(-1, 0, 0), Vec3(0, -1, 0)}) {
            const Vec3 towards = crate.room.place.direction(own);
            if (world.flat_on() && std::abs(towards.x) < 0.5) continue;
            const double half = (own.x != 0 ? crate.room.size.x : crate.room.size.y) / 2;
            const Vec3 lift(0, 0, 2 * k_scrape_m);
            const motion::Body who{crate.room.place.at - towards * (half + result_.character.radius_m) + lift,
                                   r, result_.character.height_m - 4 * k_scrape_m};
            const motion::Body next{crate.room.place.at + towards * (2 * k_scrape_m) + lift,
                                    half - k_scrape_m, crate.room.size.z - 4 * k_scrape_m};
            if (overlap_m(world, who) <= tolerance::limit_m && overlap_m(world, next) <= k_scrape_m) return;
        }
        add(RuleId::crate_stuck, {{"Nobody can push %1 where it stands.", {crate.id}}}, *item);
    }

    void add(RuleId rule, Sentences says, const Item& item, std::vector<ItemId> more = {}) {
        std::vector<ItemId> ids{item.id};
        ids.insert(ids.end(), more.begin(), more.end());
        out_.push_back(
            {rule, rule_of(rule).severity, std::move(says), met_at(level_, *item.element()), std::move(ids)});
    }

    int count_of(const char* kind, const char* key, const std::string& name) const {
        return int(std::count_if(elements_.begin(), elements_.end(), [&](const Item* item) {
            return acts_as(*item->element()) == kind && text_of(*item->element(), key) == name;
        }));
    }

    /// The switches that an element names.
    void refers(const Item& item) {
        for (const ElementField& field : kind_of(*item.element()).fields) {
            if (field.type != FieldType::items) continue;
            for (const std::string& id : texts_value(*item.element(), field.key)) {
                const Item* other = find_item(level_, {id});
                if (other && other->element() && acts_as(*other->element()) == "switch") continue;
                add(RuleId::reference_missing,
                    {{"%1 listens to \"%2\", which is no switch of this level.", {item.id, id}}}, item);
            }
        }
    }

    void door(const Item& item) {
        const Element& element = *item.element();
        const std::vector<std::string> by = texts_value(element, "open_by");
        if (flag_value(element, "open", false)) return;
        const std::string key = text_of(element, "key");
        if (key.empty() && by.empty())
            add(RuleId::door_never_opens,
                {{"%1 is closed, and neither a key nor a switch opens it.", {item.id}}}, item);
        else if (!key.empty() && by.empty() && count_of("key", "kind", key) == 0)
            add(RuleId::door_never_opens, {{"%1 wants a %2 key, and there is none.", {item.id, key}}}, item);
    }

    void gate(const Item& item) {
        const Element& element = *item.element();
        const int wanted = int(number_value(element, "count", 1));
        const std::string name = text_of(element, "pickup");
        const int there = count_of("pickup", "kind", name);
        if (there < wanted)
            add(RuleId::gate_short,
                {{"%1 opens at %2 of %3, and there are %4.",
                  {item.id, std::to_string(wanted), name, std::to_string(there)}}},
                item);
    }

    void unheard(const Item& item) {
        const bool heard = std::any_of(elements_.begin(), elements_.end(), [&](const Item* other) {
            const auto& fields = kind_of(*other->element()).fields;
            return std::any_of(fields.begin(), fields.end(), [&](const ElementField& field) {
                if (field.type != FieldType::items) return false;
                const auto by = texts_value(*other->element(), field.key);
                return std::find(by.begin(), by.end(), item.id.value) != by.end();
            });
        });
        if (!heard) add(RuleId::switch_unheard, {{"Nothing listens to %1.", {item.id}}}, item);
    }

    void foe(const Item& item) {
        std::vector<Vec3> way = points_value(*item.element(), "path");
        way.push_back(item.element()->at);
        for (const Vec3& start : result_.starts) {
            double nearest = std::numeric_limits<double>::infinity();
            for (const Vec3& point : way) nearest = std::min(nearest, glm::length(point - start));
            const bool sees = text_value(*item.element(), "way") == "comes_nearer";
            const double far = std::max(k_foe_far_m, sees ? number_of(*item.element(), "sight_m") : 0.0);
            if (nearest >= far - tolerance::limit_m) continue;
            add(RuleId::foe_near_start, {{"%1 comes within %2 of the start.", {item.id, Metres{nearest}}}},
                item);
            break;
        }
        const auto& puzzle = result_.world->moving().puzzle;
        if (!puzzle) return;
        for (const auto& one : puzzle->foes) {
            if (one.id != item.id) continue;
            const bool through = std::any_of(one.way.begin(), one.way.end(),
                                             [&](int cell) { return puzzle->floor_of(cell).wall; });
            if (through)
                add(RuleId::foe_in_matter, {{"The way of %1 leads through matter.", {item.id}}}, item);
        }
    }

    /// The world of the level without what moves.
    const motion::World& still(const motion::PlayElements& elements) const {
        std::vector<motion::SourceId> movers;
        for (const auto& lift : elements.lifts) movers.push_back(lift.source());
        std::sort(movers.begin(), movers.end());
        return result_.world->without(movers);
    }

    /// Somewhere on its course a lift meets matter, or leaves too little room over it.
    void crushes(const motion::PlayElements& elements, const motion::PlayElements::Lift& lift) {
        const Item* item = find_item(level_, lift.id);
        if (!item) return;
        const motion::World& world = still(elements);
        const double radius = std::min(lift.room.size.x, lift.room.size.y) / 2 - k_scrape_m;
        for (int step = 0; step < lift.course.steps(); step += k_look_steps) {
            const Vec3 at = lift.course.at(step);
            const double top = at.z + lift.room.size.z;
            const motion::Body deck{at + Vec3(0, 0, k_scrape_m), radius, lift.room.size.z - 2 * k_scrape_m};
            if (overlap_m(world, deck) > tolerance::limit_m)
                return add(RuleId::lift_crushes, {{"%1 goes through matter.", {item->id}}}, *item);
            const motion::Body rider{raised(flat(at), top + tolerance::limit_m),
                                     std::min(radius, result_.character.radius_m),
                                     result_.character.height_m - 2 * tolerance::limit_m};
            if (overlap_m(world, rider) > tolerance::limit_m)
                return add(RuleId::lift_crushes, {{"Who stands on %1 is crushed on the way.", {item->id}}},
                           *item);
        }
    }

    /// The way of a foe where one moves freely: through no matter, and with ground under it.
    void goes_freely(const motion::PlayElements& elements, const motion::PlayElements::Foe& foe) {
        const Item* item = find_item(level_, foe.id);
        if (!item) return;
        const motion::World& world = still(elements);
        const double radius = std::min(foe.room.size.x, foe.room.size.y) / 2;
        for (int step = 0; step < foe.course.steps(); step += k_look_steps) {
            const Vec3 at = foe.course.at(step);
            const motion::Body body{at + Vec3(0, 0, k_scrape_m), radius - k_scrape_m,
                                    foe.room.size.z - k_scrape_m};
            if (overlap_m(world, body) > tolerance::limit_m)
                return add(RuleId::foe_in_matter, {{"The way of %1 leads through matter.", {item->id}}},
                           *item);
            if (level_.frame != Frame::plan &&
                !support_below(world, {at, radius, 0}, k_scrape_m, result_.character.step_height_m))
                return add(RuleId::foe_in_matter, {{"The way of %1 leaves the ground.", {item->id}}}, *item);
        }
    }

    /// Neither from left or right nor from above or below can it be pushed, whatever else moves away.
    void crate(const motion::CellPuzzle& puzzle, int index) {
        const auto& crate = puzzle.crates[size_t(index)];
        const Item* item = find_item(level_, crate.id);
        if (!item || crate.size != 1) return;
        const int cell = puzzle.start.crates[size_t(index)];
        const auto floor = [&](int c) { return c >= 0 && !puzzle.floor_of(c).wall; };
        for (const int direction : {0, 1}) {
            const int a = puzzle.beside(cell, direction), b = puzzle.beside(cell, direction + 2);
            if (floor(a) && floor(b)) return;
        }
        add(RuleId::crate_stuck, {{"Nobody can push %1 where it stands.", {crate.id}}}, *item);
    }

    /// A key that is had only when doors are open that it opens itself.
    void key(const Item& item) {
        const auto place = std::find_if(result_.places.begin(), result_.places.end(),
                                        [&](const Place& one) { return one.item == item.id; });
        const auto starts = elements_of(level_, Role::start);
        if (place == result_.places.end() || place->reached != Reached::no || starts.empty()) return;
        if (++keys_ > k_most_keys) return;
        const std::string name = text_of(*item.element(), "kind");
        Level opened = level_;
        std::vector<ItemId> doors;
        for (const Item* other : elements_) {
            if (acts_as(*other->element()) != "door" || text_of(*other->element(), "key") != name) continue;
            if (other->id.value.find('/') != std::string::npos) continue; // within an assembly
            Item open = *other;
            Element& element = std::get<Element>(open.body);
            element = with_value(std::move(element), "open", true);
            opened = edit::with_changed(opened, open);
            doors.push_back(other->id);
        }
        if (doors.empty()) return;
        build::SolidBuilder builder;
        if (tried(project_, opened, builder, starts[0]->id, item.id, {}).reached == Reached::yes)
            add(RuleId::key_behind_door, {{"%1 lies behind %2, which it opens.", {item.id, doors[0]}}}, item,
                doors);
    }

    const Project& project_;
    const Level& level_;
    const CheckResult& result_;
    const std::vector<const Item*> elements_;
    int keys_ = 0;
    std::vector<Finding> out_;
};

} // namespace

std::vector<Finding> find_in_elements(const Project& project, const Level& level, const CheckResult& result) {
    return ElementFinder(project, level, result).run();
}

} // namespace rubble::check
