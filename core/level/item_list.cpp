#include "level/item_list.h"

#include <algorithm>

#include "level/item.h"

namespace rubble {

bool ItemList::operator==(const ItemList& other) const { return items_ == other.items_; }

namespace {

/// Lists up to here are searched from end to end; so many changes are put up with before places are noted
/// anew, and as far items are looked for from where they were.
constexpr size_t k_few = 64;

uint64_t hash_of(const ItemId& id) { return std::hash<ItemId>{}(id); }

bool is_or_holds(const Item& item, const ItemId& id) {
    if (item.id == id) return true;
    const ItemList* members = members_of(item);
    return members && members->place_of(id) < members->size();
}

/// Calls `visit` for the item and all it holds.
template <class F> void for_all_in(const Item& item, F& visit) {
    visit(item);
    if (const ItemList* members = members_of(item))
        for (const ItemPtr& member : *members) for_all_in(*member, visit);
}

void note(FlatIndex& places, const Item& item, size_t place) {
    auto add = [&](const Item& one) {
        places.find_or_add(hash_of(one.id), int(place), [&](int known) { return known == int(place); });
    };
    for_all_in(item, add);
}

} // namespace

ItemList::ItemList(const std::vector<ItemPtr>& items) : items_(items) { note_all(); }
ItemList::ItemList(std::initializer_list<ItemPtr> items) : items_(items) { note_all(); }

void ItemList::note_all() {
    fresh_.clear(), changes_ = 0;
    places_.reset();
    if (size() <= k_few) return;
    places_ = std::make_shared<FlatIndex>(size());
    size_t place = 0;
    for (const ItemPtr& item : items_) note(*places_, *item, place++);
}

bool ItemList::holds_fresh(const ItemId& id) const {
    return std::find(fresh_.begin(), fresh_.end(), id) != fresh_.end();
}

/// What of the item is not known by its id yet.
void ItemList::note_fresh(const Item& item) {
    auto add = [&](const Item& one) {
        const bool known = places_->find(hash_of(one.id), [](int) { return true; }) >= 0;
        if (!known && !holds_fresh(one.id)) fresh_.push_back(one.id);
    };
    for_all_in(item, add);
}

void ItemList::count_change(size_t by) {
    changes_ += by;
    if (changes_ > k_few || fresh_.size() > k_few) note_all();
}

void ItemList::set(size_t i, ItemPtr item) {
    const bool same = item->id == items_[i]->id && !members_of(*item);
    items_.set(i, item);
    if (same || !places_) return;
    note_fresh(*item);
    count_change(1);
}

void ItemList::push_back(ItemPtr item) {
    items_.push_back(item);
    if (!places_) {
        if (size() > k_few) note_all();
    } else if (places_.use_count() == 1) {
        note(*places_, *item, size() - 1); // nobody else's yet
    } else {
        note_fresh(*item);
        count_change(0);
    }
}

ItemList ItemList::remade(const std::vector<ItemPtr>& items) const {
    ItemList out = *this;
    out.items_ = items_.with_values(items, [](const ItemPtr& a, const ItemPtr& b) { return a.is(b); });
    const size_t difference = std::max(size(), items.size()) - std::min(size(), items.size());
    if (!places_ || items.size() <= k_few || difference > k_few) {
        out.note_all();
        return out;
    }
    for (const ItemPtr& item : items) {
        out.note_fresh(*item);
        if (out.fresh_.size() > k_few) break;
    }
    out.count_change(std::max<size_t>(difference, 1));
    return out;
}

size_t ItemList::place_of(const ItemId& id) const {
    const auto found = [&](size_t place) { return is_or_holds(*items_[place], id); };
    if (places_) {
        size_t at = size();
        const auto near = [&](int hint) {
            const size_t begin = std::min(size_t(hint), size() - 1);
            for (size_t off = 0; off <= k_few && at == size(); ++off) {
                if (begin + off < size() && found(begin + off)) at = begin + off;
                if (off <= begin && found(begin - off)) at = begin - off;
            }
            return at < size();
        };
        if (places_->find(hash_of(id), near) >= 0) return at;
        const bool known = places_->find(hash_of(id), [](int) { return true; }) >= 0;
        if (!known && !holds_fresh(id)) return size();
    }
    // What came last is asked for most.
    for (size_t place = size(); place-- > 0;)
        if (found(place)) return place;
    return size();
}

} // namespace rubble
