#pragma once

#include <compare>
#include <cstdint>

#include "base/id.h"

namespace rubble::motion {

/// What brings matter into the world: an item, or one part of an item that brings several (a tile of a layer,
/// a place of a piece), by a number that the item keeps for it.
struct SourceId {
    ItemId item;
    int64_t sub = 0;
    auto operator<=>(const SourceId&) const = default;
};

/// What stands for a tile layer among the items that bring matter; no item has such an id.
inline ItemId layer_source(const LayerId& layer) { return {"layer:" + layer.value}; }
/// Whether an id stands for a layer.
inline bool stands_for(const ItemId& source, const LayerId& layer) { return source == layer_source(layer); }

/// What matter does to the character besides being in its way; kinds of matter are sets of these.
enum class MatterTag : uint8_t { one_way = 1, deadly = 2, slippery = 4, ladder = 8 };

/// A set of tags.
class MatterTags {
public:
    constexpr MatterTags() = default;
    constexpr MatterTags(MatterTag tag) : bits_(uint8_t(tag)) {} // NOLINT: a set of one
    /// Whether a tag is in it.
    constexpr bool has(MatterTag tag) const { return bits_ & uint8_t(tag); }
    constexpr MatterTags operator|(MatterTags other) const {
        MatterTags out;
        out.bits_ = bits_ | other.bits_;
        return out;
    }
    constexpr bool operator==(const MatterTags&) const = default;

private:
    uint8_t bits_ = 0;
};

} // namespace rubble::motion

template <> struct std::hash<rubble::motion::SourceId> {
    size_t operator()(const rubble::motion::SourceId& id) const {
        return std::hash<rubble::ItemId>{}(id.item) * 31 + std::hash<int64_t>{}(id.sub);
    }
};
