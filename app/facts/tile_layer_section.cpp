#include <QCheckBox>
#include <QComboBox>
#include <QFileInfo>

#include "edit/tiles.h"
#include "facts/pages.h"
#include "numbers.h"

namespace rubble::app {

namespace {

/// The chosen layer of tiles as it is now; a fresh one where there is none, which nobody sees.
TileLayer tiles_now(const Session& session) {
    const Layer* layer = session.tile_layer();
    return layer ? **layer->tiles : TileLayer{};
}

void change(Session& session, const QString& what, const std::function<void(TileLayer&)>& edit) {
    const Layer* layer = session.tile_layer();
    if (!layer) return;
    TileLayer tiles = **layer->tiles;
    edit(tiles);
    if (!(tiles == **layer->tiles))
        session.apply(edit::with_tile_layer(session.stored_level(), layer->id, std::move(tiles)), what);
}

void add_value(Page& page, const QString& name, const QString& unit, double step, double scale,
               const QString& what, const std::function<double&(TileLayer&)>& of, double least, double most) {
    Session& session = page.session();
    page.add_number({name, unit, step,
                     [&session, of, scale] {
                         TileLayer tiles = tiles_now(session);
                         return of(tiles) * scale;
                     },
                     [&session, of, scale, what, least, most](double to) {
                         change(session, what,
                                [&](TileLayer& tiles) { of(tiles) = std::clamp(to / scale, least, most); });
                     }});
}

} // namespace

void add_tile_layer(Page& page) {
    Session& session = page.session();
    if (!session.tile_layer()) return;
    QLabel* heading = page.add_heading({});
    QLabel* text = page.add_text({});
    page.on_refresh([&session, heading, text] {
        const Layer* layer = session.tile_layer();
        if (!layer) return;
        const TileLayer& tiles = **layer->tiles;
        heading->setText(
            Facts::tr("Tiles of %1")
                .arg(QString::fromStdString(layer->name.empty() ? layer->id.value : layer->name)));
        const TileBox& area = tiles.grid.area();
        text->setText(
            Facts::tr("%1 × %2 cells, %3 × %4")
                .arg(area.columns())
                .arg(area.rows())
                .arg(metres_text(area.columns() * tiles.cell_m), metres_text(area.rows() * tiles.cell_m)));
    });
    auto* sheets = new QComboBox;
    sheets->setAccessibleName(Facts::tr("Sheet of the layer"));
    sheets->setToolTip(Facts::tr("The sheet that the numbers of the cells are drawn from"));
    page.column().addWidget(sheets);
    page.on_refresh([&session, sheets] {
        sheets->clear();
        sheets->addItem(Facts::tr("Plain cells"), QString());
        const std::string& own = tiles_now(session).sheet_file;
        for (const auto& sheet : session.project().sheets)
            sheets->addItem(QFileInfo(QString::fromStdString(sheet->file)).fileName().section('.', 0, 0),
                            QString::fromStdString(sheet->file));
        int index = sheets->findData(QString::fromStdString(own));
        if (index < 0) { // one that could not be read
            sheets->addItem(Facts::tr("%1, missing").arg(QString::fromStdString(own)),
                            QString::fromStdString(own));
            index = sheets->count() - 1;
        }
        sheets->setCurrentIndex(index);
    });
    QObject::connect(sheets, &QComboBox::activated, &page, [&session, sheets](int index) {
        change(session, Facts::tr("Sheet of a layer"), [&](TileLayer& tiles) {
            tiles.sheet_file = sheets->itemData(index).toString().toStdString();
            tiles.sheet = find_sheet(session.project(), tiles.sheet_file);
        });
    });
    auto* solid = new QCheckBox(Facts::tr("Solid for %1").arg(session.character_name()));
    solid->setAccessibleName(solid->text());
    solid->setToolTip(
        Facts::tr("Whether the tiles of this layer keep the character out, as each of them says"));
    page.column().addWidget(solid);
    page.on_refresh([&session, solid] { solid->setChecked(tiles_now(session).solid); });
    QObject::connect(solid, &QCheckBox::clicked, &page, [&session](bool on) {
        change(session, on ? Facts::tr("Make a layer solid") : Facts::tr("Make a layer passable"),
               [&](TileLayer& tiles) { tiles.solid = on; });
    });
    add_value(
        page, Facts::tr("Cell"), Facts::tr("m"), 0.25, 1, Facts::tr("Cell size"),
        [](TileLayer& t) -> double& { return t.cell_m; }, smallest_cell_m, largest_cell_m);
    add_value(
        page, Facts::tr("Depth, behind above 0"), {}, 1, 1, Facts::tr("Depth of a layer"),
        [](TileLayer& t) -> double& { return t.depth; }, -100, 100);
    add_value(
        page, Facts::tr("Opacity"), Facts::tr("%"), 10, 100, Facts::tr("Opacity of a layer"),
        [](TileLayer& t) -> double& { return t.opacity; }, 0, 1);
    if (session.level().frame != Frame::side) return;
    add_value(
        page, Facts::tr("Goes along, across"), Facts::tr("%"), 10, 100, Facts::tr("Parallax of a layer"),
        [](TileLayer& t) -> double& { return t.parallax.x; }, -2, 2);
    add_value(
        page, Facts::tr("Goes along, upwards"), Facts::tr("%"), 10, 100, Facts::tr("Parallax of a layer"),
        [](TileLayer& t) -> double& { return t.parallax.y; }, -2, 2);
}

} // namespace rubble::app
