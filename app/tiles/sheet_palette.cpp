#include "tiles/sheet_palette.h"

#include <QFileInfo>
#include <QVBoxLayout>

namespace rubble::app {

SheetPalette::SheetPalette(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    sheets_ = new QComboBox;
    sheets_->setAccessibleName(tr("Sheet"));
    sheets_->setToolTip(tr("The sheet whose tiles are painted with"));
    column->addWidget(sheets_);
    grounds_ = new QComboBox;
    grounds_->setAccessibleName(tr("Ground"));
    grounds_->setToolTip(tr("A ground chooses its edges and corners by itself"));
    column->addWidget(grounds_);
    connect(grounds_, &QComboBox::activated, this,
            [this](int index) { session_.looking().set_ground(index - 1); });
    view_ = new SheetView;
    scroll_ = new QScrollArea;
    scroll_->setWidget(view_);
    scroll_->setWidgetResizable(true);
    scroll_->setMinimumHeight(fontMetrics().height() * 9);
    column->addWidget(scroll_, 1);
    connect(sheets_, &QComboBox::activated, this, [this](int index) {
        session_.looking().set_stamp({}, sheets_->itemData(index).toString().toStdString());
    });
    connect(view_, &SheetView::chosenChanged, this, &SheetPalette::take_into_hand);
    connect(&session_.looking(), &WayOfLooking::stampChanged, this, &SheetPalette::refresh);
    connect(&session_.looking(), &WayOfLooking::layerChanged, this, &SheetPalette::show_chosen_layers_sheet);
    show_chosen_layers_sheet();
    refresh();
}

/// Painting goes on with the tiles of the layer that one turns to.
void SheetPalette::show_chosen_layers_sheet() {
    const Layer* layer = session_.tile_layer();
    if (!layer) return;
    const std::string& file = (*layer->tiles)->sheet_file;
    if (file != session_.looking().sheet()) session_.looking().set_stamp({}, file);
}

void SheetPalette::refresh() {
    const QSignalBlocker block(sheets_);
    const QSignalBlocker block_view(view_);
    sheets_->clear();
    sheets_->addItem(tr("Plain cells"), QString());
    const std::string& wanted = session_.looking().sheet();
    for (const auto& sheet : session_.project().sheets) {
        sheets_->addItem(QFileInfo(QString::fromStdString(sheet->file)).fileName().section('.', 0, 0),
                         QString::fromStdString(sheet->file));
        if (sheet->file == wanted) sheets_->setCurrentIndex(sheets_->count() - 1);
    }
    const auto sheet = find_sheet(session_.project(), wanted);
    scroll_->setVisible(sheet != nullptr);
    grounds_->setVisible(sheet && !sheet->edgings.empty());
    grounds_->clear();
    grounds_->addItem(tr("Tiles as they are"));
    if (sheet)
        for (const Edging& edging : sheet->edgings)
            grounds_->addItem(tr("Ground: %1").arg(QString::fromStdString(edging.name)));
    grounds_->setCurrentIndex(std::clamp(session_.looking().ground() + 1, 0, grounds_->count() - 1));
    if (sheet != view_->sheet()) view_->set_sheet(sheet);
    if (sheet) { // small cells are shown larger, so that they can be told apart and clicked
        constexpr int k_readable_px = 28;
        const int cell = std::max(sheet->cut.cell_px[0], 1);
        view_->set_zoom(std::max(1, (k_readable_px + cell - 1) / cell));
    }
    if (!sheet) return;
    // What is in the hand is marked where it was taken from.
    std::set<CellAt> cells;
    for (const Tile& tile : session_.looking().stamp().tiles)
        if (const SheetTile* own = sheet->tile(tile.number())) cells.insert({own->at[0], own->at[1]});
    if (cells != view_->chosen()) view_->choose(std::move(cells));
}

void SheetPalette::take_into_hand() {
    const auto& sheet = view_->sheet();
    const TileBox box = view_->chosen_box();
    if (!sheet || box.empty()) return;
    edit::Stamp stamp{box.columns(), box.rows(), {}};
    for (int row = box.low.row; row < box.high.row; ++row)
        for (int column = box.low.column; column < box.high.column; ++column)
            stamp.tiles.push_back(
                view_->chosen().contains({column, row}) ? Tile(tile_in_cell(*sheet, {column, row})) : Tile());
    const bool any = std::any_of(stamp.tiles.begin(), stamp.tiles.end(), [](Tile t) { return !t.empty(); });
    if (any) session_.looking().set_stamp(std::move(stamp), sheet->file);
}

} // namespace rubble::app
