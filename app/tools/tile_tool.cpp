#include "tools/tile_tool.h"

#include <algorithm>
#include <set>

#include "edit/assemblies.h"
#include "edit/edging.h"
#include "edit/items.h"
#include "numbers.h"
#include "text.h"
#include "theme.h"
#include "tiles/tile_picture.h"
#include "tools/picture_catch.h"
#include "tools/picture_hand.h"
#include "view/overlay.h"

namespace rubble::app {

namespace {

/// More cells than these are not drawn one by one under the pointer.
constexpr size_t k_most_ghosts = 4096;

} // namespace

std::optional<LayerId> TileTool::wanted_layer() {
    made_.reset();
    if (const Layer* layer = session_.tile_layer()) {
        if (layer->locked) {
            emit session_.message(tr("This layer is locked. Unlock it, or choose another"));
            return {};
        }
        return layer->id;
    }
    Layer layer = new_tile_layer(session_.stored_level(), session_.project(), session_.looking().sheet());
    made_ = edit::with_layer(session_.stored_level(), layer);
    return layer.id;
}

std::optional<CellAt> TileTool::cell_under(const Pointer& pointer) const {
    const Level& level = session_.stored_level();
    const Layer* layer = session_.tile_layer();
    TileLayer fresh;
    fresh.cell_m = cell_for(session_.project(), session_.looking().sheet());
    const TileLayer& tiles = layer ? **layer->tiles : fresh;
    const Vec3 out = along(layout_of(level.frame).out);
    const auto at = meet_plane(pointer.ray, tiles.origin, out);
    return at ? std::optional(cell_at(tiles, level.frame, *at)) : std::nullopt;
}

edit::Stamp TileTool::stamp() const {
    return stroke_ == TileStroke::erase ? edit::Stamp{1, 1, {Tile()}} : session_.looking().stamp();
}

const Edging* TileTool::ground(const TileLayer& tiles) const {
    const int chosen = session_.looking().ground();
    const bool there = tiles.sheet && tiles.sheet_file == session_.looking().sheet() && chosen >= 0 &&
                       size_t(chosen) < tiles.sheet->edgings.size();
    return there ? &tiles.sheet->edgings[size_t(chosen)] : nullptr;
}

namespace {

/// Tiles that belong to a ground and are put one by one are placed by hand: edging leaves them alone.
Tile placed_by_hand(const Tile& tile, const TileLayer& tiles) {
    const bool of_a_ground =
        tiles.sheet && std::any_of(tiles.sheet->edgings.begin(), tiles.sheet->edgings.end(),
                                   [&](const Edging& edging) { return edging.holds(tile.number()); });
    return of_a_ground ? Tile(tile.number(), tile.mirrored(), tile.turns(), true) : tile;
}
edit::Stamp placed_by_hand(edit::Stamp stamp, const TileLayer& tiles) {
    for (Tile& tile : stamp.tiles) tile = placed_by_hand(tile, tiles);
    return stamp;
}
edit::TileMix placed_by_hand(edit::TileMix mix, const TileLayer& tiles) {
    for (auto& part : mix.parts) part.tile = placed_by_hand(part.tile, tiles);
    return mix;
}

/// All cells of some runs.
std::vector<CellAt> cells_of(const std::vector<edit::TileRun>& runs) {
    std::vector<CellAt> cells;
    for (const edit::TileRun& run : runs)
        for (CellAt cell = run.from; cell.column < run.to; ++cell.column) cells.push_back(cell);
    return cells;
}

/// The grid with the grounds around some cells as they want to be, once nothing lies in these.
TileGrid erased(TileGrid grid, const TileLayer& tiles, std::span<const CellAt> cells) {
    if (tiles.sheet)
        for (const Edging& edging : tiles.sheet->edgings)
            grid = edit::with_ground(grid, edging, cells, false);
    return grid.with(edit::filled(edit::Stamp{1, 1, {Tile()}}, cells, {0, 0}));
}

} // namespace

bool TileTool::begin(CellAt cell) {
    if (stroke_ != TileStroke::pick_up) {
        const auto layer = wanted_layer();
        if (!layer) return false;
        layer_ = *layer;
    }
    begin_ = now_ = hover_ = cell;
    way_ = {cell};
    show_stroke();
    return true;
}

void TileTool::go_on(CellAt cell) {
    if (!begin_ || cell == now_) return;
    if (stroke_ == TileStroke::pencil || stroke_ == TileStroke::erase) {
        const std::vector<CellAt> more = edit::cells_on_line(*now_, cell);
        way_.insert(way_.end(), more.begin() + 1, more.end());
    }
    now_ = cell;
    show_stroke();
}

void TileTool::finish() {
    if (!begin_) return;
    if (stroke_ == TileStroke::pick_up) {
        pick_up(edit::box_between(*begin_, *now_));
    } else if (auto level = painted()) {
        session_.apply(std::move(*level), what());
        ++chance_;
    } else {
        session_.drop_preview();
    }
    give_up();
}

void TileTool::give_up() {
    begin_.reset(), now_.reset(), made_.reset();
    way_.clear();
}

void TileTool::press(const Pointer& pointer) {
    picture_at_ = place_for_picture(session_, pointer);
    if (picture_at_ && stroke_ == TileStroke::pencil) {
        if (const auto item = picture_in_hand(session_, *picture_at_))
            session_.apply(edit::with_item(session_.stored_level(), session_.layer(), *item),
                           tr("Place a picture"));
        return;
    }
    if (const auto cell = cell_under(pointer)) begin(*cell);
}

void TileTool::move(const Pointer& pointer) {
    picture_at_ = place_for_picture(session_, pointer);
    hover_ = cell_under(pointer);
    if (hover_) go_on(*hover_);
}

void TileTool::release(const Pointer& pointer) {
    if (!begin_) return;
    move(pointer);
    finish();
}

bool TileTool::escape() {
    if (!begin_) {
        const bool marked = session_.looking().picked_area().has_value();
        session_.looking().set_picked_area({});
        return marked;
    }
    give_up();
    session_.drop_preview();
    return true;
}

/// Where the pointer was last, or where there is something already.
CellAt TileTool::place_of_keys() const {
    if (hover_) return *hover_;
    const Layer* layer = session_.tile_layer();
    return layer ? (*layer->tiles)->grid.area().low : CellAt{};
}

/// By keys: the first time where the stroke begins, then, of those that go from one end to another, where it
/// ends.
void TileTool::confirm() {
    if (begin_) return finish();
    if (!begin(place_of_keys())) return;
    const bool has_two_ends = stroke_ == TileStroke::line || stroke_ == TileStroke::rectangle ||
                              stroke_ == TileStroke::ellipse || stroke_ == TileStroke::pick_up;
    if (!has_two_ends) finish();
}

bool TileTool::step(int right, int up) {
    const CellAt from = place_of_keys();
    hover_ = CellAt{from.column + right, from.row - up};
    go_on(*hover_);
    return true;
}

std::vector<CellAt> TileTool::covered() const {
    std::vector<CellAt> cells;
    const TileBox box = edit::box_between(*begin_, *now_);
    switch (stroke_) {
    case TileStroke::pencil:
    case TileStroke::erase: {
        const std::set<CellAt> each(way_.begin(), way_.end());
        cells.assign(each.begin(), each.end());
        break;
    }
    case TileStroke::line:
        cells = edit::cells_on_line(*begin_, *now_);
        break;
    case TileStroke::rectangle:
    case TileStroke::pick_up:
        for (int row = box.low.row; row < box.high.row; ++row)
            for (int column = box.low.column; column < box.high.column; ++column)
                cells.push_back({column, row});
        break;
    case TileStroke::ellipse:
        cells = edit::cells_in_ellipse(box, true);
        break;
    case TileStroke::fill:
    case TileStroke::replace:
        cells = {*now_};
        break;
    }
    return cells;
}

std::optional<Level> TileTool::painted() const {
    const Level& level = made_ ? *made_ : session_.stored_level();
    const TileLayer* tiles = edit::tile_layer(level, layer_);
    if (!tiles) return {};
    const edit::Stamp stamp = placed_by_hand(this->stamp(), *tiles);
    const edit::TileMix mix = placed_by_hand(session_.looking().mix(), *tiles);
    const Edging* ground = this->ground(*tiles);
    TileLayer after = *tiles;
    if (stroke_ == TileStroke::erase) {
        after.grid = erased(tiles->grid, *tiles, covered());
    } else if (ground && stroke_ != TileStroke::replace) {
        const std::vector<CellAt> cells =
            stroke_ == TileStroke::fill ? cells_of(edit::area_around(tiles->grid, *now_)) : covered();
        after.grid = edit::with_ground(tiles->grid, *ground, cells, true);
    } else if (stroke_ == TileStroke::fill) {
        const auto runs = edit::area_around(tiles->grid, *now_);
        if (runs.empty()) return {};
        if (session_.looking().strews())

            after.grid = tiles->grid.with(edit::strewn(mix, cells_of(runs), chance_));
        else
            after.grid = edit::filled(tiles->grid, stamp, runs, *now_);
    } else if (session_.looking().strews() && stroke_ != TileStroke::replace && stroke_ != TileStroke::fill) {
        after.grid = tiles->grid.with(edit::strewn(mix, covered(), chance_));
    } else if (stroke_ == TileStroke::replace) {
        const Tile old = tiles->grid.at(*now_);
        if (old.empty()) return {};
        after.grid = tiles->grid.with(edit::replaced(tiles->grid, old.number(), stamp.tiles[0].number()));
    } else if (stroke_ == TileStroke::pencil && stamp.tiles.size() > 1) {
        // A block is laid where the pointer is, and again a whole block farther.
        std::vector<CellAt> places;
        for (const CellAt& cell : covered())
            if ((cell.column - begin_->column) % stamp.columns == 0 &&
                (cell.row - begin_->row) % stamp.rows == 0)
                places.push_back(cell);
        after.grid = tiles->grid.with(edit::stamped(stamp, places));
    } else {
        after.grid = tiles->grid.with(edit::filled(stamp, covered(), *begin_));
    }
    if (after.grid == tiles->grid) return {};
    return edit::with_tile_layer(level, layer_, std::move(after));
}

void TileTool::show_stroke() {
    if (stroke_ == TileStroke::pick_up) return;
    if (auto level = painted())
        session_.preview(std::move(*level));
    else
        session_.drop_preview();
}

void TileTool::pick_up(const TileBox& box) {
    const Layer* layer = session_.tile_layer();
    if (!layer) return;
    const TileLayer& tiles = **layer->tiles;
    const edit::Stamp stamp = edit::stamp_of(tiles.grid, box);
    const Box3 area = box_of(tiles, session_.stored_level().frame, box);
    session_.looking().set_picked_area(
        edit::tiles_within(session_.stored_level(), area).empty() ? std::nullopt : std::optional(area));
    if (std::all_of(stamp.tiles.begin(), stamp.tiles.end(), [](Tile tile) { return tile.empty(); })) {
        emit session_.message(tr("There is no tile there to pick up"));
        return;
    }
    session_.looking().set_stamp(stamp, tiles.sheet_file);
}

void TileTool::paint(QPainter& painter, const Camera& camera) {
    draw_picked_area(painter, camera, session_);
    if (!hover_ && !picture_at_) return;
    const Level& level = session_.level();
    const Layer* layer = session_.tile_layer();
    TileLayer fresh;
    fresh.cell_m = cell_for(session_.project(), session_.looking().sheet());
    fresh.sheet = find_sheet(session_.project(), session_.looking().sheet());
    const TileLayer& tiles = layer ? **layer->tiles : fresh;
    const auto screen_box = [&](const TileBox& cells) -> std::optional<QRectF> {
        const auto a = camera.to_screen(place_of(tiles, level.frame, cells.low, {0, 1}));
        const auto b = camera.to_screen(
            place_of(tiles, level.frame, {cells.high.column - 1, cells.high.row - 1}, {1, 0}));
        if (!a || !b) return {};
        return QRectF(*a, *b).normalized();
    };
    // What would be painted, where nothing is yet: a stroke under way is in the level already.
    const edit::Stamp stamp = this->stamp();
    if (picture_at_ && stroke_ == TileStroke::pencil)
        return draw_picture_in_hand(painter, camera, session_, *picture_at_);
    const bool strews = session_.looking().strews();
    const bool ghost = !begin_ && stroke_ != TileStroke::erase && stroke_ != TileStroke::pick_up;
    TileBox around = box_of(*hover_);
    if (ghost && stroke_ == TileStroke::pencil && !strews && stamp.tiles.size() <= k_most_ghosts) {
        around.high = {hover_->column + stamp.columns, hover_->row + stamp.rows};
        painter.setOpacity(0.7);
        for (int row = 0; row < stamp.rows; ++row)
            for (int column = 0; column < stamp.columns; ++column)
                if (const auto box = screen_box(box_of(CellAt{hover_->column + column, hover_->row + row})))
                    draw_tile(painter, *box, tiles.sheet.get(), stamp.at(column, row));
        painter.setOpacity(1);
    } else if (ghost) {
        if (const auto box = screen_box(around)) {
            painter.setOpacity(0.7);
            draw_tile(painter, *box, tiles.sheet.get(),
                      strews ? session_.looking().mix().at(*hover_, chance_) : stamp.tiles[0]);
            painter.setOpacity(1);
        }
    }
    if (begin_ && stroke_ != TileStroke::pencil && stroke_ != TileStroke::erase)
        around = edit::box_between(*begin_, *now_);
    if (const auto box = screen_box(around)) {
        painter.setBrush(Qt::NoBrush);
        painter.setPen(QPen(color::accent, 1.6, stroke_ == TileStroke::erase ? Qt::DashLine : Qt::SolidLine));
        painter.drawRect(*box);
        if (begin_ && (around.columns() > 1 || around.rows() > 1))
            Labels(painter).put(box->center(),
                                tr("%1 × %2 cells · %3 × %4")
                                    .arg(around.columns())
                                    .arg(around.rows())
                                    .arg(metres_text(around.columns() * tiles.cell_m),
                                         metres_text(around.rows() * tiles.cell_m)),
                                color::accent, true);
    }
}

QString TileTool::what() const {
    switch (stroke_) {
    case TileStroke::erase:
        return tr("Erase tiles");
    case TileStroke::fill:
        return tr("Fill with tiles");
    case TileStroke::replace:
        return tr("Replace tiles");
    default:
        return tr("Paint tiles");
    }
}

QString TileTool::hint() const {
    switch (stroke_) {
    case TileStroke::pencil:
        return tr("Paint with the tile in the hand: drag, or arrow keys and Enter. Comma mirrors it, the "
                  "full stop turns it");
    case TileStroke::line:
    case TileStroke::rectangle:
    case TileStroke::ellipse:
        return tr("Drag from one end to the other");
    case TileStroke::fill:
        return tr("Click an area of one kind to fill it");
    case TileStroke::replace:
        return tr("Click a tile: all like it become the one in the hand");
    case TileStroke::erase:
        return tr("Drag over what should go");
    case TileStroke::pick_up:
        return tr("Drag over what should be in the hand");
    }
    return {};
}

} // namespace rubble::app
