#pragma once

#include <span>

#include <QString>

#include "level/brush.h"

namespace rubble::app {

/// A shape as the tray, the facts and the commands show it.
struct ShapeEntry {
    Shape shape;
    const char* tool; ///< name of the tool that draws it, the same in every language
    int key;          ///< a Qt::Key, with modifiers
};

/// All shapes in the order in which they are offered.
std::span<const ShapeEntry> all_shapes();

QString shape_name(Shape shape);
/// The same within a sentence: "Draw a box".
QString draw_text(Shape shape);

/// The shape that a tool draws; nothing for other tools.
const ShapeEntry* shape_of_tool(const QString& tool);

} // namespace rubble::app
