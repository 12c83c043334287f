#include "level/level_order.h"

#include <algorithm>
#include <numeric>

#include "level/element_kinds.h"
#include "level/element_values.h"
#include "level/order.h"

namespace rubble {

std::vector<size_t> in_walking_order(const std::vector<const Level*>& levels) {
    std::vector<std::vector<size_t>> next(levels.size());
    std::vector<char> is_led_to(levels.size(), 0);
    for (size_t i = 0; i < levels.size(); ++i)
        for (const Item* goal : elements_of(*levels[i], Role::goal)) {
            const std::string name = text_value(*goal->element(), "leads_to");
            for (size_t other = 0; other < levels.size() && !name.empty(); ++other)
                if (other != i && levels[other]->name == name) next[i].push_back(other), is_led_to[other] = 1;
        }
    std::vector<size_t> first(levels.size());
    std::iota(first.begin(), first.end(), size_t(0));
    std::stable_sort(first.begin(), first.end(), [&](size_t a, size_t b) {
        return is_led_to[a] != is_led_to[b] ? !is_led_to[a] : levels[a]->name < levels[b]->name;
    });
    std::vector<size_t> out;
    std::vector<char> done(levels.size(), 0);
    for (const size_t begin : first) {
        std::vector<size_t> open{begin};
        while (!open.empty()) {
            const size_t level = open.back();
            open.pop_back();
            if (done[level]) continue;
            done[level] = 1;
            out.push_back(level);
            open.insert(open.end(), next[level].rbegin(), next[level].rend());
        }
    }
    return out;
}

} // namespace rubble
