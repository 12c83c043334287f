#pragma once

#include <span>

#include "facts/facts.h"
#include "window/page.h"

namespace rubble::app {

/// What the facts say, by what is selected and by stage.
/// What is set of the chosen layer of tiles.
void add_tile_layer(Page& page);
void fill_level(Page& page, Facts& facts);
/// What a level seen from above is as a maze, where it is one.
void add_maze(Page& page);
/// How a level walked by cells is solved, where something in it acts.
void add_puzzle(Page& page, Facts& facts);
/// How hard the project's puzzles are, side by side.
void add_cards(Page& page);
/// What the level is about, with whom its claims hold, and the rules of play.
void add_play(Page& page);
/// What is suggested, where something is.
void add_suggestions(Page& page);
void fill_character(Page& page);
void fill_brush(Page& page, const ItemId& id);
/// The faces that are picked to be dressed: their material, and how its picture lies.
void fill_faces(Page& page);

/// The chosen items of a level, in the order of storing.
std::vector<const Item*> chosen_items(const Level& level, std::span<const ItemId> ids);
/// The number that all have, or none ("mixed") where they differ.
double shared_number(std::span<const double> values);

/// Whether numbers along an axis (0 x, 1 y, 2 z) are asked for: from the side nothing speaks of a third axis.
inline bool is_asked(Frame frame, int axis) { return frame != Frame::side || axis != layout_of(frame).out; }

/// How a page looks at the brushes it speaks of, one or several, and changes them all alike. What a change
/// would make unusable stays as it was, which is said.
struct BrushEditing {
    BrushEditing(Page& page, std::vector<ItemId> ids);

    bool one_only = true;
    std::function<Brush()> first;
    /// The number that all of them have, or none where they differ.
    std::function<double(const std::function<double(const Brush&)>& get)> shared;
    std::function<void(const QString& what, const std::function<void(Brush&)>& edit)> change;
};
/// A number of brushes: how it is read and set, and what it means for the character where there is one brush.
struct BrushNumber {
    QString name, unit;
    double step = 0.1;
    std::function<double(const Brush&)> get;
    std::function<void(Brush&, double)> set;
    std::function<QString(const Brush&)> meaning = {};
};
void add_brush_number(Page& page, const BrushEditing& editing, BrushNumber number);
/// Length, width and height.
void add_size_fields(Page& page, const BrushEditing& editing,
                     std::function<QString(const Brush&)> height_meaning = {});
/// The values that brushes of one shape have besides their sizes.
void add_shape_fields(Page& page, const BrushEditing& editing);
/// The kind of shape, and whether it fills or cuts.
void add_kind_fields(Page& page, const BrushEditing& editing);
/// The cells of a mass, what is marked on it, and what can be made of both.
void add_mass(Page& page, const std::function<Brush()>& mass);
/// What is picked of the selected brush, and what can be made of it.
void fill_picks(Page& page);
/// Which copies the brush is linked with, and what can be done about it; nothing where it has none.
void add_copies(Page& page, const ItemId& id);
void fill_element(Page& page, Facts& facts, const ItemId& id);
/// The selected pieces of kits, one or several.
void fill_pieces(Page& page);
/// A place of an assembly.
void fill_assembly(Page& page, const ItemId& id);
/// A picture that is placed freely.
void fill_picture(Page& page, const ItemId& id);
void fill_selection(Page& page);
void fill_claim(Page& page, Facts& facts, const Claim& claim);
/// Claims that can be made about the one, two or three elements that are selected.
void offer_claims(Page& page);

/// Tags and values for the game, to be typed.
void add_values(Page& page, const QString& heading, std::function<Extra()> now,
                std::function<void(Extra)> change);

/// What an item is called, as a heading.
void add_title(Page& page, const ItemId& id);
/// Its name, to be changed.
void add_name(Page& page, const ItemId& id);
/// What is missing to a place, and the mends that were tried, each with a button that makes it.
void add_near_miss(Page& page, const check::NearMiss& miss);
/// A button that plays a run.
void add_watch(Page& page, Facts& facts, const check::Witness& witness, const QString& title);

} // namespace rubble::app
