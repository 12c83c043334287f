#pragma once

#include <initializer_list>
#include <memory>
#include <vector>

#include "base/flat_index.h"
#include "base/id.h"
#include "base/shared.h"
#include "base/shared_list.h"

namespace rubble {

struct Item;
using ItemPtr = Shared<Item>;

/// The items of a layer or group as a value. A changed copy shares what did not change, and an item is found
/// by its id without a look at the others, so that an edit costs the same in a level of any size.
class ItemList {
public:
    ItemList() = default;
    ItemList(const std::vector<ItemPtr>& items); // NOLINT: the same as a value
    ItemList(std::initializer_list<ItemPtr> items);

    size_t size() const { return items_.size(); }
    bool empty() const { return items_.empty(); }
    const ItemPtr& operator[](size_t i) const { return items_[i]; }
    auto begin() const { return items_.begin(); }
    auto end() const { return items_.end(); }
    std::vector<ItemPtr> values() const { return items_.values(); }

    /// Whether the two share all they hold.
    bool is(const ItemList& other) const { return items_.is(other.items_); }
    bool operator==(const ItemList& other) const;
    /// The first place from `i` on that a list of the same size may not share; the size where there is none.
    size_t next_not_shared(const ItemList& other, size_t i) const {
        return items_.next_not_shared(other.items_, i);
    }

    /// Puts an item in a place; other lists keep theirs.
    void set(size_t i, ItemPtr item);
    void push_back(ItemPtr item);
    /// A list of these, mostly the same items, which shares with this one what stands where it stood.
    ItemList remade(const std::vector<ItemPtr>& items) const;

    /// Where the item with that id stands, or the group that holds it at any depth; the size where there is
    /// none.
    size_t place_of(const ItemId& id) const;

private:
    void note_all();
    void note_fresh(const Item& item);
    bool holds_fresh(const ItemId& id) const;
    void count_change(size_t by);

    SharedList<ItemPtr> items_;
    /// Where items stood when it was made, by the hashes of their ids. Edits move them a little, so it is
    /// where a search begins; but an id that it does not know is fresh, or not here. Short lists have none.
    std::shared_ptr<FlatIndex> places_;
    std::vector<ItemId> fresh_; ///< what came since
    size_t changes_ = 0;        ///< of the order since
};

} // namespace rubble
