#pragma once

#include <functional>
#include <memory>
#include <optional>
#include <span>

#include <QPainter>

#include "tools/tool.h"

namespace rubble::app {

/// What a tool asks of the window it works in, besides the session.
struct ToolRoom {
    /// Shows a strip of the level across an axis (0 x, 1 y), and takes the tool out of the hand.
    std::function<void(int axis, double from_m, double to_m)> show_slice;
};

inline constexpr QKeyCombination k_no_key{Qt::Key(0)};

/// A tool as the tray, the menus, the command finder and the keys know it. All of them read `all_tools`; a
/// new tool is a new row there.
struct ToolEntry {
    const char* id;                 ///< the same in every language and in settings: its command is "tool-ID"
    QString (*label)();             ///< a word or two, under its picture
    QString (*command)();           ///< what it is called in menus and the finder
    QKeyCombination key = k_no_key; ///< it works in every stage
    std::span<const Stage> trays;   ///< stages in whose tray it is offered
    std::span<const Frame> frames;  ///< of levels in which it is of use
    std::optional<Shape> shape;     ///< what it draws, where that is a shape
    std::function<std::unique_ptr<Tool>(Session&, const ToolRoom&)> make;
    std::function<void(QPainter&)> picture; ///< 40 × 32
};

/// In the order in which they are offered; the first one selects.
std::span<const ToolEntry> all_tools();
/// Null where there is none.
const ToolEntry* find_tool(const QString& id);
/// The tool that draws a shape; null for shapes that none draws.
const ToolEntry* tool_of_shape(Shape shape);

} // namespace rubble::app
