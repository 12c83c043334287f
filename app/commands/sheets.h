#pragma once

#include <QString>

#include "edit/sheet_collision.h"
#include "session/session.h"

class QWidget;

namespace rubble::app {

/// Brings a picture in as a sheet of tiles: proposes a cut, shows it, and takes the sheet into the project.
/// Asks for the file where none is named; one that is a sheet already is brought in again. False where
/// nothing came in.
bool bring_in_sheet(Session& session, QWidget& window, QString path = {});
/// A sheet for its picture as it is now, cut as it was, with the tiles that are not on it any more.
edit::Recut brought_again(const TileSheet& sheet, std::shared_ptr<const Picture> picture);
/// Draws a sheet of grey tiles for the project's pixels per metre, as a PNG beside the document's files (asks
/// where those are not saved yet), and takes it in. False where nothing came of it.
bool add_grey_sheet(Session& session, QWidget& window);
/// Opens the sheet in the hand: its cut, and what its tiles collide with.
void edit_sheet(Session& session, QWidget& window);
/// A layer of tiles more, drawn from the sheet in the hand.
void add_tile_layer(Session& session);
/// Gives all tiles of the ground in the hand their places anew in the chosen layer, those placed by hand too.
void edge_anew(Session& session);
/// Clothes the level's first solid layer with the ground in the hand: in the chosen layer, or where that is
/// the solid one itself in a new layer before it, with cells of the sheet's own size.
void clothe(Session& session);
/// What is in the hand mirrored left to right, or turned a quarter.
void mirror_stamp(Session& session);
/// See above.
void turn_stamp(Session& session);

} // namespace rubble::app
