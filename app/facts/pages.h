#pragma once

#include "facts/facts.h"
#include "window/page.h"

namespace rubble::app {

/// What the facts say, by what is selected and by stage.
void fill_level(Page& page);
void fill_character(Page& page);
void fill_brush(Page& page, const ItemId& id);
/// How a page looks at the brush it speaks of, and changes it.
struct BrushEditing {
    std::function<Brush()> now;
    std::function<void(const QString& what, std::function<void(Brush&)> edit)> change;
};
/// The values that the brush's shape has besides its size.
void add_shape_fields(Page& page, const BrushEditing& editing);
/// The cells of a mass, what is marked on it, and what can be made of both.
void add_mass(Page& page, const std::function<Brush()>& mass);
/// What is picked of the selected brush, and what can be made of it.
void fill_picks(Page& page);
/// Which copies the brush is linked with, and what can be done about it; nothing where it has none.
void add_copies(Page& page, const ItemId& id);
void fill_element(Page& page, Facts& facts, const ItemId& id);
void fill_selection(Page& page);
void fill_claim(Page& page, Facts& facts, const Claim& claim);

/// What an item is called, as a heading.
void add_title(Page& page, const ItemId& id);
/// Its name, to be changed.
void add_name(Page& page, const ItemId& id);
/// What is missing to a place, and the mends that were tried, each with a button that makes it.
void add_near_miss(Page& page, const check::NearMiss& miss);
/// A button that plays a run.
void add_watch(Page& page, Facts& facts, const check::Witness& witness, const QString& title);

} // namespace rubble::app
