#include "check/play_rules.h"

#include <algorithm>

#include "check/foe_watch.h"
#include "level/element_kinds.h"
#include "level/kinds_of_play.h"
#include "level/order.h"

namespace rubble::check {

namespace {

/// Pick-ups are spread where they take up at least this part of what is reached, along its longer side; fewer
/// than so many are not asked.
constexpr double k_spread = 0.5;
constexpr size_t k_some = 3;
/// So much of a foe's way should be seen before it matters.
constexpr double k_seen = 0.5;

class PlayRules {
public:
    PlayRules(const Level& level, const CheckResult& result, KindOfPlay kind)
        : level_(level),
          result_(result),
          kind_(std::move(kind)) {}

    std::vector<Finding> run() {
        for (const Item* item : elements_of(level_)) {
            const std::string& key = item->element()->kind;
            if (std::find(kind_.unusual.begin(), kind_.unusual.end(), key) != kind_.unusual.end())
                add(RuleId::unusual_kind,
                    {{"%1 is unusual in a level about \"%2\".", {item->id, kind_.name}}}, item->element()->at,
                    {item->id});
        }
        if (asks(rule_loops)) loops();
        if (asks(rule_spread)) spread();
        if (asks(rule_seen_before)) seen_before();
        return std::move(out_);
    }

private:
    bool asks(const char* rule) const {
        return std::find(kind_.rules.begin(), kind_.rules.end(), rule) != kind_.rules.end();
    }
    void add(RuleId rule, Sentences says, const Vec3& at, std::vector<ItemId> items) {
        out_.push_back({rule, rule_of(rule).severity, std::move(says), at, std::move(items)});
    }

    void loops() {
        if (result_.maze && result_.maze->loops == 0 && !result_.starts.empty())
            add(RuleId::no_loops, {{"There is only one way to everywhere: no way leads round anything."}},
                result_.starts[0], {});
    }

    void spread() {
        Box2 reached, gathered;
        for (size_t ledge = 0; ledge < result_.ground->ledges.size(); ++ledge) {
            if (!result_.reach->tinted(int(ledge))) continue;
            const Box3& box = result_.ground->ledges[ledge].box;
            reached.add(flat(box.low)), reached.add(flat(box.high));
        }
        std::vector<ItemId> items;
        for (const Item* item : elements_of(level_)) {
            if (acts_as(*item->element()) != "pickup") continue;
            gathered.add(flat(met_at(level_, *item->element())));
            items.push_back(item->id);
        }
        if (items.size() < k_some) return;
        const Vec2 all = reached.high - reached.low, some = gathered.high - gathered.low;
        const double part = std::max(some.x, some.y) / std::max({all.x, all.y, 1e-9});
        if (part >= k_spread) return;
        add(RuleId::not_spread,
            {{"All pick-ups lie within %1 of the %2 that one can walk.",
              {Metres{std::max(some.x, some.y)}, Metres{std::max(all.x, all.y)}}}},
            raised((gathered.low + gathered.high) * 0.5, 0), std::move(items));
    }

    void seen_before() {
        const std::vector<FoeWatch> watches =
            result_.foe_watches.empty() ? watch_foes(level_, result_) : result_.foe_watches;
        for (const FoeWatch& watch : watches) {
            if (!watch.matters || watch.seen_share >= k_seen) continue;
            const Item* item = find_item(level_, watch.foe);
            if (!item) continue;
            add(RuleId::not_seen_before,
                {{"Only %1 percent of the way of %2 are seen before one comes near it.",
                  {std::to_string(int(watch.seen_share * 100 + 0.5)), watch.foe}}},
                item->element()->at, {watch.foe});
        }
    }

    const Level& level_;
    const CheckResult& result_;
    const KindOfPlay kind_;
    std::vector<Finding> out_;
};

} // namespace

std::vector<Finding> find_in_kind_of_play(const Project& project, const Level& level,
                                          const CheckResult& result) {
    auto kind = kind_of_play(project, level);
    return kind ? PlayRules(level, result, std::move(*kind)).run() : std::vector<Finding>{};
}

} // namespace rubble::check
