#pragma once

#include <functional>
#include <string>

namespace rubble {

/// The name by which parts of a document refer to each other. One type per kind of thing, so that an
/// item's id cannot be passed where a layer's is wanted. An empty id refers to nothing.
template <class Tag> struct Id {
    std::string value;

    bool empty() const { return value.empty(); }
    auto operator<=>(const Id&) const = default;
};

using ItemId = Id<struct ItemTag>;
using LayerId = Id<struct LayerTag>;
using ClaimId = Id<struct ClaimTag>;
using CharacterId = Id<struct CharacterTag>;
using MaterialId = Id<struct MaterialTag>;
using DimensionId = Id<struct DimensionTag>;
using UnderlayId = Id<struct UnderlayTag>;

} // namespace rubble

template <class Tag> struct std::hash<rubble::Id<Tag>> {
    size_t operator()(const rubble::Id<Tag>& id) const { return std::hash<std::string>{}(id.value); }
};
