#include "tools/tool_list.h"
#include "element_names.h"

#include <algorithm>
#include <array>

#include "level/dressing/light.h"
#include "shape_list.h"
#include "text.h"
#include "tools/ask_tool.h"
#include "tools/assembly_tool.h"
#include "tools/draw_tool.h"
#include "tools/knife_tool.h"
#include "tools/mass_tool.h"
#include "tools/measure_tool.h"
#include "tools/mirror_tool.h"
#include "tools/opening_tool.h"
#include "tools/path_tool.h"
#include "tools/piece_tool.h"
#include "tools/place_tool.h"
#include "tools/prop_tool.h"
#include "tools/select_tool.h"
#include "tools/slice_tool.h"
#include "tools/tile_tool.h"
#include "tools/tool_pictures.h"
#include "tools/underlay_tool.h"

namespace rubble::app {

namespace {

constexpr std::array k_check{Stage::check}, k_block_out{Stage::block_out}, k_populate{Stage::populate},
    k_dress{Stage::dress};
constexpr std::array k_both{Stage::block_out, Stage::populate};
constexpr std::span<const Stage> k_no_tray;
constexpr std::array k_all_frames{Frame::space, Frame::side, Frame::plan};
constexpr std::array k_space{Frame::space};
constexpr std::array k_upright{Frame::space, Frame::side}, k_walls{Frame::space, Frame::plan},
    k_tiles{Frame::side, Frame::plan};

template <Shape shape> QString label_of() { return shape_name(shape); }
template <Shape shape> QString command_of() { return draw_text(shape); }

/// In which levels a shape is of use: nothing is climbed in a Plan level, and in a Side level nothing leads
/// away from the viewer.
constexpr std::span<const Frame> frames_of(Shape shape) {
    switch (shape) {
    case Shape::curved_stairs:
        return k_space;
    case Shape::wall_run:
        return k_walls;
    case Shape::ramp:
    case Shape::stairs:
    case Shape::arch:
        return k_upright;
    default:
        return k_all_frames;
    }
}

template <Shape shape> ToolEntry drawn(const char* id, QKeyCombination key) {
    return {id,
            label_of<shape>,
            command_of<shape>,
            key,
            k_block_out,
            frames_of(shape),
            shape,
            [](Session& session, const ToolRoom&) -> std::unique_ptr<Tool> {
                if (shape == Shape::outline || shape == Shape::wall_run)
                    return std::make_unique<PathTool>(session, shape);
                return std::make_unique<DrawTool>(session, shape, Effect::fill);
            },
            [](QPainter& painter) { picture_shape(painter, shape); }};
}

using Text = QString (*)();

ToolEntry opening(const char* id, Text label, Text command, QKeyCombination key, edit::OpeningKind kind) {
    return {
        id,
        label,
        command,
        key,
        k_block_out,
        k_space,
        {},
        [kind](Session& session, const ToolRoom&) { return std::make_unique<OpeningTool>(session, kind); },
        [kind](QPainter& painter) { picture_opening(painter, kind); }};
}

ToolEntry placed(const ElementName& name) {
    const std::string kind = name.kind;
    return {name.tool,
            name.label,
            name.command,
            k_no_key,
            is_dressing(name.kind) ? std::span<const Stage>(k_dress) : std::span<const Stage>(k_populate),
            k_all_frames,
            {},
            [kind](Session& session, const ToolRoom&) { return std::make_unique<PlaceTool>(session, kind); },
            [kind](QPainter& painter) { picture_element(painter, kind); }};
}

template <class OneTool>
ToolEntry plain(const char* id, Text label, Text command, QKeyCombination key, std::span<const Stage> trays,
                void (*picture)(QPainter&), std::span<const Frame> frames = k_all_frames) {
    return {id,      label,
            command, key,
            trays,   frames,
            {},      [](Session& session, const ToolRoom&) { return std::make_unique<OneTool>(session); },
            picture};
}

ToolEntry cut() {
    return {"cut",
            [] { return tr("Cut"); },
            [] { return tr("Draw: cut"); },
            Qt::Key_X,
            k_block_out,
            k_all_frames,
            {},
            [](Session& session, const ToolRoom&) {
                return std::make_unique<DrawTool>(session, Shape::box, Effect::cut);
            },
            picture_cut};
}

ToolEntry plane() {
    return {"plane",
            [] { return tr("Plane"); },
            [] { return tr("Draw: plane"); },
            Qt::SHIFT | Qt::Key_T,
            k_block_out,
            k_space,
            {},
            [](Session& session, const ToolRoom&) { return DrawTool::of_planes(session); },
            picture_plane};
}

ToolEntry hole() {
    return {"hole",
            [] { return tr("Hole"); },
            [] { return tr("Draw: hole in the selected outline"); },
            Qt::SHIFT | Qt::Key_J,
            k_block_out,
            k_all_frames,
            {},
            [](Session& session, const ToolRoom&) {
                return std::make_unique<PathTool>(session, Shape::outline, true);
            },
            picture_hole};
}

ToolEntry slice() {
    return {"slice",
            [] { return tr("Slice"); },
            [] { return tr("Slice: from here to there"); },
            Qt::SHIFT | Qt::Key_Y,
            k_no_tray,
            k_space,
            {},
            [](Session& session, const ToolRoom& room) {
                return std::make_unique<SliceTool>(session, room.show_slice);
            },
            picture_slice};
}

ToolEntry tiles(const char* id, Text label, Text command, QKeyCombination key, TileStroke stroke) {
    return {
        id,
        label,
        command,
        key,
        k_block_out,
        k_tiles,
        {},
        [stroke](Session& session, const ToolRoom&) { return std::make_unique<TileTool>(session, stroke); },
        [stroke](QPainter& painter) { picture_tiles(painter, stroke); }};
}

std::vector<ToolEntry> made_list() {
    std::vector<ToolEntry> list{
        plain<SelectTool>(
            "select", [] { return tr("Select"); }, [] { return tr("Select"); }, Qt::Key_Q, k_both,
            picture_select),
        tiles(
            "tile_pencil", [] { return tr("Pencil"); }, [] { return tr("Tiles: pencil"); }, Qt::Key_U,
            TileStroke::pencil),
        tiles(
            "tile_line", [] { return tr("Line"); }, [] { return tr("Tiles: line"); }, Qt::SHIFT | Qt::Key_U,
            TileStroke::line),
        tiles(
            "tile_rectangle", [] { return tr("Area"); }, [] { return tr("Tiles: rectangle"); }, Qt::Key_J,
            TileStroke::rectangle),
        tiles(
            "tile_ellipse", [] { return tr("Ellipse"); }, [] { return tr("Tiles: ellipse"); },
            Qt::SHIFT | Qt::Key_D, TileStroke::ellipse),
        tiles(
            "tile_fill", [] { return tr("Fill"); }, [] { return tr("Tiles: fill an area"); }, Qt::Key_7,
            TileStroke::fill),
        tiles(
            "tile_replace", [] { return tr("Replace"); }, [] { return tr("Tiles: replace all of one kind"); },
            Qt::SHIFT | Qt::Key_N, TileStroke::replace),
        tiles(
            "tile_erase", [] { return tr("Erase"); }, [] { return tr("Tiles: erase"); }, Qt::Key_Z,
            TileStroke::erase),
        tiles(
            "tile_pick_up", [] { return tr("Pick up"); }, [] { return tr("Tiles: pick up"); }, Qt::Key_8,
            TileStroke::pick_up),
        cut(),
        drawn<Shape::box>("box", Qt::Key_B),
        drawn<Shape::ramp>("ramp", Qt::Key_T),
        drawn<Shape::stairs>("stairs", Qt::Key_I),
        drawn<Shape::curved_stairs>("curved_stairs", Qt::SHIFT | Qt::Key_I),
        drawn<Shape::cylinder>("cylinder", Qt::Key_O),
        drawn<Shape::cone>("cone", Qt::Key_K),
        drawn<Shape::ball>("ball", Qt::SHIFT | Qt::Key_O),
        drawn<Shape::arch>("arch", Qt::Key_H),
        drawn<Shape::pipe>("pipe", Qt::SHIFT | Qt::Key_K),
        drawn<Shape::outline>("outline", Qt::Key_L),
        drawn<Shape::wall_run>("wall_run", Qt::SHIFT | Qt::Key_L),
        plane(),
        hole(),
        plain<MassTool>(
            "mass", [] { return tr("Mass"); }, [] { return tr("Massing"); }, Qt::SHIFT | Qt::Key_B,
            k_block_out, picture_mass, k_space),
        opening(
            "door", [] { return tr("Door"); }, [] { return tr("Put in: door"); }, Qt::Key_E,
            edit::OpeningKind::door),
        opening(
            "window", [] { return tr("Window"); }, [] { return tr("Put in: window"); }, Qt::Key_F,
            edit::OpeningKind::window),
        opening(
            "archway", [] { return tr("Archway"); }, [] { return tr("Put in: archway"); },
            Qt::SHIFT | Qt::Key_H, edit::OpeningKind::archway),
        plain<KnifeTool>(
            "knife", [] { return tr("Knife"); }, [] { return tr("Knife"); }, Qt::SHIFT | Qt::Key_X,
            k_block_out, picture_knife),
        plain<MirrorTool>(
            "mirror", [] { return tr("Mirror"); }, [] { return tr("Mirror"); }, Qt::SHIFT | Qt::Key_M,
            k_block_out, picture_mirror),
        plain<MeasureTool>(
            "measure", [] { return tr("Measure"); }, [] { return tr("Measure"); }, Qt::Key_M, k_block_out,
            picture_measure),
        plain<AskTool>(
            "ask", [] { return tr("Ask"); }, [] { return tr("Ask about a place"); }, Qt::SHIFT | Qt::Key_A,
            k_check, picture_ask),
        plain<PieceTool>(
            "piece", [] { return tr("Piece"); }, [] { return tr("Place pieces of a kit"); }, Qt::Key_0,
            k_no_tray, picture_piece),
        plain<PropTool>(
            "prop", [] { return tr("Prop"); }, [] { return tr("Place props"); },
            Qt::CTRL | Qt::ALT | Qt::Key_U, k_no_tray, picture_piece),
        plain<AssemblyTool>(
            "assembly", [] { return tr("Assembly"); }, [] { return tr("Place an assembly"); },
            Qt::ALT | Qt::Key_0, k_no_tray, picture_piece),
        slice(),
        plain<UnderlayTool>(
            "underlay", [] { return tr("Picture"); },
            [] { return tr("Move and scale a picture under the level"); }, Qt::CTRL | Qt::SHIFT | Qt::Key_L,
            k_no_tray, picture_underlay),
    };
    for (const ElementName& name : element_names()) list.push_back(placed(name));
    list.push_back({"place own",
                    [] { return tr("Own kind"); },
                    [] { return tr("Place: a kind of this project"); },
                    k_no_key,
                    k_no_tray,
                    k_all_frames,
                    {},
                    [](Session& session, const ToolRoom&) {
                        return std::make_unique<PlaceTool>(session, std::string());
                    },
                    [](QPainter& painter) { picture_element(painter, "place"); }});
    return list;
}

} // namespace

std::span<const ToolEntry> all_tools() {
    static const std::vector<ToolEntry> list = made_list();
    return list;
}

const ToolEntry* find_tool(const QString& id) {
    const auto tools = all_tools();
    const auto found = std::find_if(tools.begin(), tools.end(),
                                    [&](const ToolEntry& tool) { return id == QLatin1String(tool.id); });
    return found == tools.end() ? nullptr : &*found;
}

const ToolEntry* tool_of_shape(Shape shape) {
    const auto tools = all_tools();
    const auto found =
        std::find_if(tools.begin(), tools.end(), [&](const ToolEntry& tool) { return tool.shape == shape; });
    return found == tools.end() ? nullptr : &*found;
}

} // namespace rubble::app
