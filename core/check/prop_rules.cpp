#include "check/prop_rules.h"

#include <algorithm>
#include <set>

#include "build/matter_met.h"
#include "edit/items.h"

namespace rubble::check {

namespace {

/// Nearer than this a prop stands on something or hangs from it (metres); deeper in it than this part of its
/// height it is sunk; smaller than this every way it is an ornament (metres).
constexpr double k_touches_m = 0.05, k_sunk_part = 0.5, k_ornament_m = 0.3;
/// So many props are tried to be away one by one, for so many claims.
constexpr size_t k_most_tried = 12, k_most_claims = 3;

struct Prop {
    ItemId id;
    const PlacedPiece* placed;
    Box3 box;
    bool met = false;
};

class PropFinder {
public:
    PropFinder(const Project& project, const Level& level, const CheckResult& result)
        : project_(project),
          level_(level),
          result_(result) {
        std::set<ItemId> met;
        if (result.solid)
            for (const auto& piece : result.solid->pieces)
                if (!piece->cells->empty()) met.insert(piece->item);
        for_each_item(level, [&](const Item& item, const Layer&) {
            if (item.piece() && is_prop(*item.piece()))
                props_.push_back({item.id, item.piece(), box_of(item), met.contains(item.id)});
        });
    }

    std::vector<Finding> run() {
        if (props_.empty() || !result_.solid) return {};
        standing();
        ornaments();
        ways();
        return std::move(out_);
    }

private:
    void add(RuleId rule, Sentences says, const Vec3& at, std::vector<ItemId> items) {
        out_.push_back({rule, rule_of(rule).severity, std::move(says), at, std::move(items)});
    }
    static std::string metres(double m) {
        const long cm = std::lround(m * 100);
        std::string digits = std::to_string(cm % 100);
        if (digits.size() < 2) digits.insert(digits.begin(), '0');
        return std::to_string(cm / 100) + '.' + digits + " m";
    }

    /// Each alone: what it is made of itself holds nothing up.
    void standing() {
        std::set<ItemId> all;
        for (const Prop& prop : props_) all.insert(prop.id);
        const build::MatterMet others(*result_.solid, all);
        for (const Prop& prop : props_) {
            Box3 around = prop.box;
            around.low -= Vec3(k_touches_m), around.high += Vec3(k_touches_m);
            const bool held =
                others.near(around) || std::any_of(props_.begin(), props_.end(), [&](const Prop& other) {
                    return other.id != prop.id && other.box.touches(around);
                });
            const auto below = others.below(raised(flat(prop.placed->place.at), prop.box.high.z));
            const double height = prop.box.high.z - prop.box.low.z;
            if (!held)
                add(RuleId::dress_prop_floats,
                    below ? Sentences{{"%1 floats %2 above what is below it.",
                                       {prop.id, metres(prop.box.low.z - below->at.z)}}}
                          : Sentences{{"%1 floats over nothing.", {prop.id}}},
                    prop.placed->place.at, {prop.id});
            else if (below && below->at.z - prop.box.low.z > height * k_sunk_part)
                add(RuleId::dress_prop_sunk,
                    {{"%1 is sunk by %2.", {prop.id, metres(below->at.z - prop.box.low.z)}}},
                    prop.placed->place.at, {prop.id});
        }
    }

    void ornaments() {
        for (const Prop& prop : props_) {
            const Vec3 size = prop.box.high - prop.box.low;
            if (prop.met && std::max({size.x, size.y, size.z}) < k_ornament_m)
                add(RuleId::dress_ornament_met,
                    {{"%1 is an ornament of %2 and in the way.",
                      {prop.id, metres(std::max({size.x, size.y, size.z}))}}},
                    prop.placed->place.at, {prop.id});
        }
    }

    /// The first element from which play begins, to each that is not had; and what claims say of two places.
    struct Wanted {
        ItemId from, to;
        bool way = true; ///< whether there should be one
    };
    std::vector<Wanted> broken() const {
        std::vector<Wanted> out;
        for (const ClaimResult& claim : result_.claims) {
            const Claim& said = claim.question.claim;
            const bool way = said.kind == Claim::Kind::reaches;
            if (claim.state != ClaimState::fails || (!way && said.kind != Claim::Kind::not_reaches)) continue;
            out.push_back({said.from, said.to, way});
        }
        ItemId start;
        for_each_item(level_, [&](const Item& item, const Layer&) {
            if (start.empty() && item.element() && role_of(*item.element()) == Role::start) start = item.id;
        });
        for (const Place& place : result_.places) {
            const Item* item = find_item(level_, place.item);
            if (start.empty() || place.reached != Reached::no || !item || !item->element() ||
                role_of(*item->element()) != Role::goal)
                continue;
            if (std::none_of(out.begin(), out.end(), [&](const Wanted& w) { return w.to == place.item; }))
                out.push_back({start, place.item, true});
        }
        if (out.size() > k_most_claims) out.resize(k_most_claims);
        return out;
    }

    void ways() {
        const std::vector<Wanted> wanted = broken();
        if (wanted.empty()) return;
        std::vector<const Prop*> met;
        for (const Prop& prop : props_)
            if (prop.met) met.push_back(&prop);
        if (met.empty()) return;
        build::SolidBuilder trials;
        const auto right_without = [&](const Wanted& one, const std::vector<ItemId>& gone) {
            const Trial trial =
                tried(project_, edit::without(level_, gone), trials, one.from, one.to, Cancel{});
            return one.way ? trial.reached == Reached::yes : trial.reached == Reached::no;
        };
        for (const Wanted& one : wanted) {
            std::vector<ItemId> all;
            for (const Prop* prop : met) all.push_back(prop->id);
            if (!right_without(one, all)) continue;
            // Those that stand nearest to either end first.
            std::vector<const Prop*> near = met;
            const auto apart = [&](const Prop* prop) {
                double least = 1e18;
                for (const ItemId& end : {one.from, one.to})
                    if (const Item* item = find_item(level_, end))
                        least = std::min(least, glm::length(box_of(*item).middle() - prop->placed->place.at));
                return least;
            };
            std::stable_sort(near.begin(), near.end(),
                             [&](const Prop* a, const Prop* b) { return apart(a) < apart(b); });
            if (near.size() > k_most_tried) near.resize(k_most_tried);
            const auto found = std::find_if(near.begin(), near.end(),
                                            [&](const Prop* prop) { return right_without(one, {prop->id}); });
            const RuleId rule = one.way ? RuleId::dress_prop_in_way : RuleId::dress_prop_opens_way;
            if (found != near.end())
                add(rule,
                    {{one.way ? "Without %1 one gets from %2 to %3." : "Only by %1 one gets from %2 to %3.",
                      {(*found)->id, one.from, one.to}}},
                    (*found)->placed->place.at, {(*found)->id});
            else
                add(rule,
                    {{one.way ? "Without the props that are met one gets from %1 to %2."
                              : "Only by props that are met one gets from %1 to %2.",
                      {one.from, one.to}}},
                    near[0]->placed->place.at, all);
        }
    }

    const Project& project_;
    const Level& level_;
    const CheckResult& result_;
    std::vector<Prop> props_;
    std::vector<Finding> out_;
};

} // namespace

std::vector<Finding> find_in_props(const Project& project, const Level& level, const CheckResult& result) {
    return PropFinder(project, level, result).run();
}

} // namespace rubble::check
