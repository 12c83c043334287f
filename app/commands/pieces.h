#pragma once

#include <QString>

#include "session/session.h"

class QWidget;

namespace rubble::app {

/// The selected brushes become a piece of a kit, which stands in their place; asks for its name where none is
/// given. The kit is the one in the hand, or a new one.
void make_piece(Session& session, QWidget& window, QString name = {});
/// Opens the piece of the selected place by itself, or the one in the hand: the brushes that it is made of;
/// of one from a file those that it is met as.
void open_piece(Session& session);
/// The piece in the hand, or the selected one, once more under another name, opened by itself.
void copy_piece(Session& session, QWidget& window, QString name = {});
/// What the kit says of its pieces, to be changed for one or for many.
void edit_pieces(Session& session, QWidget& window);

} // namespace rubble::app
