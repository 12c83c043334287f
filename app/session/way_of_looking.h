#pragma once

#include <map>
#include <optional>
#include <vector>

#include <QObject>

#include "edit/tile_mix.h"
#include "edit/working_plane.h"

namespace rubble::app {

enum class Stage { metrics, block_out, populate, dress, check, hand_off };

/// What places are put onto while something is drawn or dragged. Alt leaves it all for a moment.
struct Snapping {
    bool grid = true;
    bool edges = true;   ///< of other items
    bool corners = true; ///< of other items
    bool turn = true;    ///< the turn step
    bool operator==(const Snapping&) const = default;
};

/// What is dragged out of the tray onto a view is of this format: the thing itself is in the hand.
inline constexpr const char* tray_piece_format = "application/x-rubble-piece";
/// A material that is dragged onto a face: its id.
inline constexpr const char* tray_material_format = "application/x-rubble-material";

/// What the tint of the ground tells: where one gets and whether back, how long it takes to there, what would
/// be lost without what is selected, how much room is over the head, or where what is selected is seen from.
enum class Overlay { usual, seconds, lost, headroom, seen };

/// How the level is looked at and worked on, none of which is in it.
class WayOfLooking : public QObject {
    Q_OBJECT
public:
    using QObject::QObject;

    Stage stage() const { return stage_; }
    void go_to(Stage stage);

    Overlay overlay() const { return overlay_; }
    void set_overlay(Overlay overlay) { overlay_ = overlay, emit overlayChanged(); }

    const Snapping& snapping() const { return snapping_; }
    void set_snapping(const Snapping& snapping);
    /// The plane that is drawn on whatever is pointed at; nothing: the surface under the pointer.
    const std::optional<edit::WorkingPlane>& plane() const { return plane_; }
    void set_plane(std::optional<edit::WorkingPlane> plane);

    /// Shows only some items, in the view alone; none: shows all again.
    void isolate(std::vector<ItemId> ids) { isolated_ = std::move(ids); }
    const std::vector<ItemId>& isolated() const { return isolated_; }
    /// Layer that new items go to, as far as the level has so many.
    int layer() const { return layer_; }
    void set_layer(int layer);

    /// The tiles in the hand, and of which sheet they are (none: plain cells).
    const edit::Stamp& stamp() const { return stamp_; }
    const std::string& sheet() const { return sheet_; }
    void set_stamp(edit::Stamp stamp, const std::string& sheet);
    /// The area whose tiles were picked up last, which an assembly is made of; nothing: none is marked.
    const std::optional<Box3>& picked_area() const { return picked_area_; }
    void set_picked_area(std::optional<Box3> area) { picked_area_ = area; }
    /// Whether each cell gets one of the tiles in the hand by chance, as often as the tiles' weights say.
    bool strews() const { return strews_; }
    void set_strews(bool on);
    double weight_of(int tile) const;
    void set_weight(int tile, double weight);
    /// The tiles in the hand with their weights.
    edit::TileMix mix() const;

    /// The ground of the sheet that is painted with instead of single tiles; -1: none.
    int ground() const { return ground_; }
    void set_ground(int ground);

    /// The piece in the hand, of which kit.
    const std::string& kit() const { return kit_; }
    const std::string& piece() const { return piece_; }
    void set_piece(const std::string& kit, const std::string& piece);
    /// The pieces of the kit that fit the joints where the pointer is, the best first; empty: none is pointed
    /// at.
    const std::vector<std::string>& fitting() const { return fitting_; }
    void set_fitting(std::vector<std::string> pieces);
    /// Whether props lean with what they stand on.
    bool leans() const { return leans_; }
    void set_leans(bool on) { leans_ = on; }
    /// The project's own kind of element in the hand, by its key.
    const std::string& own_kind() const { return own_kind_; }
    void set_own_kind(const std::string& key) { own_kind_ = key; }
    /// The assembly in the hand, by its file.
    const std::string& assembly() const { return assembly_; }
    void set_assembly(const std::string& file);
    /// The place that an open part is seen from: a level of the document, and an item in it. Empty: the part
    /// is seen alone.
    struct Around {
        size_t level = 0;
        ItemId place;
    };
    const Around& around() const { return around_; }
    void set_around(Around around) { around_ = std::move(around); }
    bool shows_around() const { return shows_around_; }
    void set_shows_around(bool on) { shows_around_ = on; }
    /// The part of the module that pieces are put onto: 1 whole modules, 0.5 halves.
    double module_part() const { return module_part_; }
    void set_module_part(double part);

signals:
    void pieceChanged();
    void fittingChanged();
    void stageChanged();
    void overlayChanged();
    void snappingChanged();
    void planeChanged();
    void stampChanged();
    void layerChanged();

private:
    Stage stage_ = Stage::block_out;
    Overlay overlay_ = Overlay::usual;
    Snapping snapping_;
    std::optional<edit::WorkingPlane> plane_;
    std::vector<ItemId> isolated_;
    bool leans_ = true;
    int layer_ = 0;
    edit::Stamp stamp_;
    std::string own_kind_;
    std::string sheet_;
    int ground_ = -1;
    std::string kit_, piece_, assembly_;
    std::vector<std::string> fitting_;
    double module_part_ = 1;
    Around around_;
    bool shows_around_ = true;
    bool strews_ = false;
    std::optional<Box3> picked_area_;
    std::map<int, double> weights_; ///< by tiles of the sheet; 1 where nothing is said
};

} // namespace rubble::app
