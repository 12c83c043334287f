#include "tiles/sheet_palette.h"

#include <QDoubleSpinBox>
#include <QFileInfo>
#include <QGridLayout>
#include <QLabel>
#include <QPainter>
#include <QVBoxLayout>

#include "tiles/tile_picture.h"

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
    strews_ = new QCheckBox(tr("By chance, one a cell"));
    strews_->setToolTip(tr("Each cell gets one of the tiles in the hand, as often as the numbers say"));
    column->addWidget(strews_);
    connect(strews_, &QCheckBox::clicked, this, [this](bool on) { session_.looking().set_strews(on); });
    weights_ = new QWidget;
    new QGridLayout(weights_);
    weights_->layout()->setContentsMargins(0, 0, 0, 0);
    column->addWidget(weights_);
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
    if (sheet) { // all across where cells can still be told apart and clicked, else larger
        constexpr int k_readable_px = 28, k_least_px = 18;
        const int cell = std::max(sheet->cut.cell_px[0], 1),
                  wide = sheet->picture ? sheet->picture->width : cell;
        const bool fits = double(cell) * scroll_->viewport()->width() / std::max(wide, 1) >= k_least_px;
        view_->set_zoom(fits ? -1 : std::max(1, (k_readable_px + cell - 1) / cell));
    }
    show_weights();
    if (!sheet) return;
    // What is in the hand is marked where it was taken from.
    std::set<CellAt> cells;
    for (const Tile& tile : session_.looking().stamp().tiles)
        if (const SheetTile* own = sheet->tile(tile.number())) cells.insert({own->at[0], own->at[1]});
    if (cells != view_->chosen()) view_->choose(std::move(cells));
}

/// The tiles in the hand with how often each comes.
void SheetPalette::show_weights() {
    const auto sheet = find_sheet(session_.project(), session_.looking().sheet());
    std::vector<int> tiles;
    constexpr size_t k_most = 8;
    for (const Tile& tile : session_.looking().stamp().tiles)
        if (!tile.empty() && tiles.size() < k_most &&
            std::find(tiles.begin(), tiles.end(), tile.number()) == tiles.end())
            tiles.push_back(tile.number());
    const bool several = sheet && tiles.size() > 1;
    strews_->setVisible(several);
    strews_->setChecked(session_.looking().strews());
    weights_->setVisible(several && session_.looking().strews());
    if (tiles == weighed_) return;
    weighed_ = tiles;
    auto* grid = static_cast<QGridLayout*>(weights_->layout());
    while (QLayoutItem* item = grid->takeAt(0)) {
        delete item->widget();
        delete item;
    }
    if (!several) return;
    constexpr int k_icon_px = 22, k_columns = 2;
    for (size_t i = 0; i < tiles.size(); ++i) {
        QPixmap icon(k_icon_px, k_icon_px);
        icon.fill(Qt::transparent);
        QPainter painter(&icon);
        draw_tile(painter, icon.rect(), sheet.get(), Tile(tiles[i]));
        painter.end();
        auto* picture = new QLabel;
        picture->setPixmap(icon);
        auto* weight = new QDoubleSpinBox;
        weight->setRange(0, 100);
        weight->setDecimals(1);
        weight->setButtonSymbols(QAbstractSpinBox::NoButtons);
        weight->setValue(session_.looking().weight_of(tiles[i]));
        weight->setAccessibleName(tr("How often tile %1 comes").arg(tiles[i]));
        connect(weight, &QDoubleSpinBox::valueChanged, this,
                [this, number = tiles[i]](double to) { session_.looking().set_weight(number, to); });
        const int row = int(i) / k_columns, at = int(i) % k_columns * 2;
        grid->addWidget(picture, row, at);
        grid->addWidget(weight, row, at + 1);
    }
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
