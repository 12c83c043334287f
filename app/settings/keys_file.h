#pragma once

#include <QByteArray>
#include <QString>

#include "base/result.h"
#include "commands/commands.h"

namespace rubble::app {

/// The keys that differ from those at first, as JSON: {"format": 1, "keys": {"COMMAND": "KEY", …}}; a command
/// without a key has an empty one.
QByteArray text_of_keys(const Commands& commands);

/// Gives commands the keys of such a text, and all others theirs at first. What is not understood changes
/// nothing and is said: unknown commands, keys that are none, one key for two commands.
Result<void> take_keys(Commands& commands, const QByteArray& text, const QString& name);

/// Every command has its key at first again.
void keys_as_at_first(Commands& commands);

} // namespace rubble::app
