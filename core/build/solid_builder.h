#pragma once

#include <optional>
#include <unordered_map>

#include "base/cancel.h"
#include "build/solid.h"
#include "geometry/space_grid.h"
#include "level/order.h"
#include "level/tiles/laid_tiles.h"

namespace rubble::build {

/// Builds solids one after the other and does again only what a change touches: an edit of one brush among n
/// costs what it and its neighbours cost, whatever n is. A face is clipped against the brushes that touch it:
/// later brushes decide what they contain; of the earlier ones the last that contains the outer side decides
/// whether matter lies there. Of faces in one plane the later brush owns the shared area; an earlier face
/// that looks the same way gives way, and an earlier one that looks the opposite way counts as containing the
/// outer side.
class SolidBuilder {
public:
    SolidBuilder();
    ~SolidBuilder();
    SolidBuilder(SolidBuilder&&) noexcept;

    /// The solid of a level. Hidden items count: hiding changes only the view.
    Solid build(const Level& level, const Cancel& cancel = {});

private:
    struct Entry;
    using Entries = std::vector<Entry*>;

    Solid built_from_brushes(const Level& level, const Cancel& cancel);

    /// Entries whose brushes are new or otherwise than before, and those whose brushes are gone.
    struct Change {
        Entries entries;
        std::vector<std::unique_ptr<Entry>> gone;
        bool in_place = false; ///< none came, went or took another place in the order
    };
    Change change_to(const Level& level);
    std::optional<Change> change_in_place(const std::vector<const Item*>& items);
    Change change_of_order(const Level& level);
    static void sort_along_curve(Entries& entries);
    void prepare_all(const Entries& changed);
    Entries link_all(const Change& change);
    void build_entry(Entry& entry) const;
    std::shared_ptr<const BrushSolid> solid_of(int item, const std::shared_ptr<const BrushSolid>& before);
    void forget();

    std::shared_ptr<geometry::PlaneTable> planes_;
    /// What an item is built in: one entry, or one for each chunk of a mass, or none of what cuts only its
    /// own group, which is built into what it cuts.
    struct Unit {
        std::array<int, 2> chunk; ///< of a mass
        std::unique_ptr<Entry> entry;
    };
    struct ItemEntries {
        std::vector<Unit> units; ///< in the order of their chunks
        bool cuts_group = false;

        Unit* unit_of(const std::array<int, 2>& chunk);
    };
    std::unordered_map<ItemId, ItemEntries> entries_;
    std::vector<ItemId> items_; ///< in order
    Entries order_;
    geometry::SpaceGrid<Entry*> grid_;
    size_t grid_made_for_ = 0;               ///< how many entries there were when its cells got their size
    std::vector<Shared<Layer>> last_layers_; ///< of the last level, with its solid
    Solid last_;
    LaidTiles laid_tiles_;
    TileMatterBuilder tiles_;
    PieceMatterBuilder pieces_;
    std::shared_ptr<const PlacedElements> elements_of(const Level& level);

    std::shared_ptr<const WalkedCells> cells_; ///< of the level before
    std::shared_ptr<const PlacedElements> elements_;
};

/// One build from nothing.
Solid build_solid(const Level& level);

} // namespace rubble::build
