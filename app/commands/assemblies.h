#pragma once

#include "session/session.h"

class QWidget;

namespace rubble::app {

/// Makes what is selected an assembly, which stands in its place; asks for its name where none is given.
void make_assembly(Session& session, QWidget& window, QString name = {});
/// Opens the assembly of the selected place by itself: what is changed there changes everywhere.
void open_assembly(Session& session);
/// Back from an assembly that is open by itself to the level before it.
void leave_assembly(Session& session);
/// An assembly that follows that of the selected place in all but what the place has of its own, and stands
/// there.
void derive_assembly(Session& session, QWidget& window, QString name = {});
/// The selected place gets an assembly of its own, so that it follows the other one no longer.
void make_independent(Session& session);
/// The selected places of assemblies become groups of plain items.
void make_plain_items(Session& session);
/// What the selected place has of its own for one of its items is given to the assembly itself.
void pass_up(Session& session, const ItemId& place, const std::string& item);
/// The same taken back: the item follows its original again.
void give_back(Session& session, const ItemId& place, const std::string& item);
/// How many places an assembly has, in how many levels, in words.
QString uses_text(const Session& session, const std::string& file);

} // namespace rubble::app
