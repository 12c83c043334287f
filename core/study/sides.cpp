#include "study/sides.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <set>

#include "base/parallel.h"
#include "check/reach_queries.h"
#include "level/transform.h"
#include "motion/sweep.h"
#include "study/comparison.h"

namespace rubble::study {

using Kind = Symmetry::Kind;

namespace {

/// Counterparts are the same to this; elements may have been moved on one side by more (metres).
constexpr double k_counterpart_m = 0.01, k_element_m = 2;
/// Of items of one size no more are paired, nor elements asked about.
constexpr size_t k_most_alike = 150, k_most_ends = 10;
/// What is seen is counted at so many places at most.
constexpr double k_most_places = 5000;
/// Times that differ by less are the same, as a part of them and in seconds.
constexpr double k_fair_part = 0.03, k_fair_s = 0.2;

/// An item as its box, of a kind.
struct Thing {
    ItemId id;
    std::string kind;
    Vec3 middle{0}, size{0};
    bool element = false;
    bool begins = false; ///< ways begin there: at starts and named places
};

std::vector<Thing> things_of(const Level& level) {
    std::vector<Thing> out;
    for_each_item(level, [&](const Item& item, const Layer&) {
        if (std::holds_alternative<Group>(item.body)) return;
        const Box3 box = box_of(item);
        const Element* element = item.element();
        std::string kind = element        ? element->kind
                           : item.brush() ? "brush" + std::to_string(int(item.brush()->shape))
                                          : "item";
        out.push_back({item.id, std::move(kind), element ? element->at : box.middle(),
                       element ? Vec3(0) : box.high - box.low, element != nullptr,
                       element && (role_of(*element) == Role::start || role_of(*element) == Role::place)});
    });
    return out;
}

/// Whether they may be counterparts: a mirror and a half turn leave a box as large.
bool alike(const Thing& a, const Thing& b) {
    return a.kind == b.kind && glm::length(a.size - b.size) < k_counterpart_m;
}

/// The thing of a kind nearest to where another comes to; -1 where none is near enough.
int counterpart(const std::vector<Thing>& things, const Symmetry& symmetry, size_t of) {
    const Vec3 to = symmetry.across(things[of].middle);
    int best = -1;
    double least = things[of].element ? k_element_m : k_counterpart_m;
    for (size_t i = 0; i < things.size(); ++i) {
        if (!alike(things[i], things[of])) continue;
        const double apart = glm::length(things[i].middle - to);
        if (apart <= least) least = apart, best = int(i);
    }
    return best;
}

/// Votes for the middles of one kind of symmetry, in centimetres.
class Votes {
public:
    void add(Kind kind, const Vec3& a, const Vec3& b) {
        const Vec2 middle = flat(a + b) * 0.5;
        if (std::abs(a.z - b.z) > k_counterpart_m) return;
        const auto cm = [](double m) { return std::llround(m * 100); };
        const bool x = kind == Kind::across_x, y = kind == Kind::across_y;
        if (x && std::abs(a.y - b.y) > k_counterpart_m) return;
        if (y && std::abs(a.x - b.x) > k_counterpart_m) return;
        Vote& vote = votes_[{y ? 0 : cm(middle.x), x ? 0 : cm(middle.y)}];
        vote.sum += middle, ++vote.count;
        if (vote.count > best_.count) best_ = vote;
    }
    std::optional<Vec2> most() const {
        if (best_.count == 0) return {};
        return best_.sum / double(best_.count);
    }

private:
    struct Vote {
        Vec2 sum{0};
        int count = 0;
    };
    std::map<std::pair<long long, long long>, Vote> votes_;
    Vote best_;
};

double share_with_counterpart(const std::vector<Thing>& things, const Symmetry& symmetry) {
    size_t with = 0, across = 0;
    for (size_t i = 0; i < things.size(); ++i) {
        const int other = counterpart(things, symmetry, i);
        with += other >= 0, across += other >= 0 && size_t(other) != i;
    }
    // What lies in the middle of it answers to itself by any symmetry.
    return across < 2 ? 0 : double(with) / double(things.size());
}

struct Ways {
    const Project& project;
    const check::CheckResult& checked;
    check::ReachQueries queries;

    Sides::Run run(const Thing& from, const Thing& to) {
        Sides::Run out{from.id, to.id, {}, 0, {}};
        const auto answer = queries.ask(from.middle, to.middle);
        if (answer.reached != check::Reached::yes || !answer.witness) return out;
        out.seconds = answer.witness->seconds();
        for (const check::Witness::Leg& leg : answer.witness->legs) {
            if (!leg.link || leg.link->kind == check::LinkKind::drop) continue;
            const check::Grade grade =
                span_of(*checked.ground, *checked.world, checked.character, project, *leg.link).grade;
            ++out.spans;
            out.hardest = std::max(out.hardest.value_or(grade), grade);
        }
        return out;
    }
};

/// Places of the ground that one gets to, evenly spread and alike on both sides.
class SeenGround {
public:
    SeenGround(const check::CheckResult& checked, const Symmetry& symmetry) : checked_(checked) {
        const check::Ground& ground = *checked.ground;
        const double area = reached_m2(checked);
        step_m_ = std::max(1.0, std::sqrt(area / k_most_places));
        Box2 all;
        for (const check::Fragment& one : ground.fragments) all.add(one.box.low), all.add(one.box.high);
        const glm::ivec2 low = glm::ivec2(glm::floor((all.low - symmetry.middle) / step_m_)),
                         high = glm::ivec2(glm::ceil((all.high - symmetry.middle) / step_m_));
        for (int x = low.x; x < high.x; ++x)
            for (int y = low.y; y < high.y; ++y) {
                // In a Side level all lies in one plane.
                const Vec2 p = symmetry.middle + (Vec2(x, y) + 0.5) * step_m_;
                ground.for_near(Box2{p, p}, [&](int f) {
                    const check::Fragment& one = ground.fragments[size_t(f)];
                    if (checked.reach->tinted(one.ledge) && geometry::distance(one.area, p) <= 0)
                        places_.push_back(raised(p, ground.feet_at(f, p)));
                });
            }
    }
    /// How much of it one sees who stands at a place.
    double seen_m2(const Vec3& feet) const {
        constexpr double k_breast_m = 1, k_look_m = 0.01;
        const Vec3 eye = feet + Vec3(0, 0, checked_.character.eye_height_m);
        std::vector<char> seen(places_.size(), 0);
        parallel_for(
            places_.size(),
            [&](size_t i) {
                const Vec3 look = places_[i] + Vec3(0, 0, k_breast_m) - eye;
                seen[i] = !motion::first_contact(*checked_.world, {eye, k_look_m, k_look_m}, look);
            },
            64);
        return double(std::count(seen.begin(), seen.end(), 1)) * step_m_ * step_m_;
    }

private:
    const check::CheckResult& checked_;
    double step_m_ = 1;
    std::vector<Vec3> places_;
};

} // namespace

Vec3 Symmetry::across(const Vec3& p) const {
    return {kind == Kind::across_y ? p.x : 2 * middle.x - p.x,
            kind == Kind::across_x ? p.y : 2 * middle.y - p.y, p.z};
}

std::optional<Symmetry> symmetry_of(const Level& level) {
    const std::vector<Thing> things = things_of(level);
    std::map<std::pair<std::string, std::array<long long, 3>>, std::vector<size_t>> by_size;
    for (size_t i = 0; i < things.size(); ++i) {
        if (things[i].element) continue; // those are moved first
        const Vec3& s = things[i].size;
        by_size[{things[i].kind, {std::llround(s.x * 100), std::llround(s.y * 100), std::llround(s.z * 100)}}]
            .push_back(i);
    }
    std::optional<Symmetry> best;
    double most = 0.5;
    for (const Kind kind : {Kind::across_x, Kind::across_y, Kind::turned}) {
        Votes votes;
        for (const auto& [size, members] : by_size)
            for (size_t i = 0; i < std::min(members.size(), k_most_alike); ++i)
                for (size_t k = i + 1; k < std::min(members.size(), k_most_alike); ++k)
                    votes.add(kind, things[members[i]].middle, things[members[k]].middle);
        const auto middle = votes.most();
        if (!middle) continue;
        const Symmetry symmetry{kind, *middle};
        if (const double share = share_with_counterpart(things, symmetry); share > most)
            most = share, best = symmetry;
    }
    return best;
}

std::optional<double> Sides::Way::more_s() const {
    if (!here.seconds || !there.seconds) return {};
    return *there.seconds - *here.seconds;
}

bool Sides::Way::fair() const {
    if (here.seconds.has_value() != there.seconds.has_value()) return false;
    if (!here.seconds) return true;
    return std::abs(*more_s()) <= std::max(k_fair_s, k_fair_part * *here.seconds) &&
           here.spans == there.spans && here.hardest == there.hardest;
}

Result<Sides> sides_of(const Project& project, const Level& level, const check::CheckResult& checked,
                       const Cancel& cancel) {
    const auto symmetry = symmetry_of(level);
    if (!symmetry)
        return fail("sides.none", level.name, "has no two sides: less than half of it is mirrored or turned");
    Sides out;
    out.symmetry = *symmetry;
    const std::vector<Thing> things = things_of(level);
    std::vector<std::pair<size_t, size_t>> ends; // elements with their counterparts
    for (size_t i = 0; i < things.size(); ++i) {
        const int other = counterpart(things, *symmetry, i);
        if (other < 0) {
            out.odd.push_back(things[i].id);
            continue;
        }
        out.alike += 1.0 / double(things.size());
        const Role role =
            things[i].element ? role_of(*find_item(level, things[i].id)->element()) : Role::note;
        if (role != Role::note && role != Role::device && ends.size() < 2 * k_most_ends)
            ends.emplace_back(i, size_t(other));
    }
    if (std::none_of(ends.begin(), ends.end(), [](const auto& end) { return end.first != end.second; }))
        return fail("sides.elements", level.name, "has no elements that come in pairs");
    Ways ways{project, checked,
              check::ReachQueries(*checked.ground, *checked.world, checked.character, cancel)};
    std::set<std::pair<size_t, size_t>> done;
    for (const auto& [from, other_from] : ends)
        for (const auto& [to, other_to] : ends) {
            if (from == to || cancel.requested() || !things[from].begins) continue;
            const bool to_itself = from == other_from && to == other_to;
            if (to_itself || done.contains({other_from, other_to}) || other_from == other_to) continue;
            done.insert({from, to});
            out.ways.push_back(
                {ways.run(things[from], things[to]), ways.run(things[other_from], things[other_to])});
        }
    std::stable_sort(out.ways.begin(), out.ways.end(), [](const Sides::Way& a, const Sides::Way& b) {
        const auto unfair = [](const Sides::Way& way) {
            if (way.fair()) return 0.0;
            return way.more_s() ? 1 + std::abs(*way.more_s()) : std::numeric_limits<double>::infinity();
        };
        return unfair(a) > unfair(b);
    });
    const SeenGround ground(checked, *symmetry);
    for (const auto& [here, there] : ends)
        if (here < there && !cancel.requested())
            out.views.push_back({things[here].id, things[there].id, ground.seen_m2(things[here].middle),
                                 ground.seen_m2(things[there].middle)});
    return out;
}

} // namespace rubble::study
