#pragma once

#include <QString>
#include <QStringList>

#include "session/session.h"

class QWidget;

namespace rubble::app {

/// Whether a file can be brought in as a piece.
bool is_model(const QString& path);
/// Brings models in as pieces of a kit: proposes scale, origin and collision, shows them, and takes them into
/// the project. Asks for files where none are named; folders stand for the models in them. False where
/// nothing came in.
bool bring_in_pieces(Session& session, QWidget& window, QStringList paths = {});

} // namespace rubble::app
