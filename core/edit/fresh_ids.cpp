#include "edit/fresh_ids.h"

#include "edit/item_lists.h"

namespace rubble::edit {

FreshIds::FreshIds(const Level& level) {
    for_each_item(level, [&](const Item& item, const Layer&) { taken_.insert(item.id.value); });
}

ItemId FreshIds::next(const std::string& prefix) {
    for (size_t n = taken_.size() / 2 + 1;; ++n)
        if (taken_.insert(prefix + std::to_string(n)).second) return {prefix + std::to_string(n)};
}

Item FreshIds::copy_of(const Item& item) {
    if (const PlacedAssembly* placed = item.assembly()) {
        // What is in it is called after it.
        Item copy = item;
        copy.id = next(id_prefix(item));
        copy.body = with_members_at(copy.id, *placed);
        copies_[item.id] = copy.id;
        for (size_t i = 0; i < placed->members.size() && i < copy.assembly()->members.size(); ++i)
            copies_[placed->members[i]->id] = copy.assembly()->members[i]->id;
        return copy;
    }
    Item copy = with_each_member(item, [&](const Item& member) { return copy_of(member); });
    copy.id = next(id_prefix(item));
    copies_[item.id] = copy.id;
    return copy;
}

Item FreshIds::with_copied_hosts(const Item& copy) const {
    Item out = with_each_member(copy, [&](const Item& member) { return with_copied_hosts(member); });
    for_each_reference(out, [&](ItemId& id) {
        if (const auto copy = copies_.find(id); copy != copies_.end()) id = copy->second;
    });
    return out;
}

} // namespace rubble::edit
