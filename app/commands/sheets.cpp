#include "commands/sheets.h"

#include <cmath>

#include <QDir>
#include <QFileDialog>
#include <QFileInfo>
#include <QMessageBox>

#include "edit/edging.h"
#include "edit/grey_sheet.h"
#include "edit/items.h"
#include "edit/sheet_collision.h"
#include "edit/sheet_cut.h"
#include "edit/sheet_pictures.h"
#include "io/picture_file.h"
#include "io/project_file.h"
#include "io/sheet_file.h"
#include "tiles/sheet_dialog.h"
#include "tiles/tile_picture.h"

namespace rubble::app {

namespace {

/// Where sheets are named from; nothing while the document has no place of its own.
std::optional<QDir> sheets_root(const Session& session) {
    if (!session.document().folder.empty()) return QDir(QString::fromStdString(session.document().folder));
    if (!session.files().file().isEmpty()) return QFileInfo(session.files().file()).absoluteDir();
    return {};
}

/// The file that a picture's sheet has: beside the picture, named from the document's own place where it has
/// one.
std::string sheet_file_for(const Session& session, const QString& picture) {
    const QFileInfo info(picture);
    const QString whole =
        info.absoluteDir().filePath(info.completeBaseName() + QStringLiteral(".sheet.json"));
    const auto root = sheets_root(session);
    const QString relative = root ? root->relativeFilePath(whole) : whole;
    return (relative.startsWith(QStringLiteral("../..")) ? whole : relative).toStdString();
}

} // namespace

edit::Recut brought_again(const TileSheet& sheet, std::shared_ptr<const Picture> picture) {
    if (!edit::is_of_unequal_pictures(sheet)) return edit::recut(sheet, std::move(picture), sheet.cut);
    return edit::pictures_again(sheet, std::move(picture));
}

bool bring_in_sheet(Session& session, QWidget& window, QString path) {
    if (path.isEmpty())
        path = QFileDialog::getOpenFileName(&window, Session::tr("Bring in a sheet of tiles"), {},
                                            Session::tr("Pictures (*.png)"));
    if (path.isEmpty()) return false;
    auto picture = io::load_picture(path.toStdString());
    if (!picture) {
        QMessageBox::warning(&window, Session::tr("Could not bring it in"),
                             QString::fromStdString(picture.error().text()));
        return false;
    }
    auto shared = std::make_shared<const Picture>(std::move(*picture));
    const std::string file = sheet_file_for(session, path);
    const auto known = find_sheet(session.project(), file);
    TileSheet sheet;
    std::vector<int> lost;
    if (known) {
        auto again = brought_again(*known, shared);
        sheet = std::move(again.sheet), lost = std::move(again.lost);
    } else {
        sheet.file = file;
        sheet.image = QFileInfo(path).fileName().toStdString();
        sheet.picture = shared;
        sheet.cut = edit::proposed_cut(*shared);
        sheet.tiles = edit::has_unequal_pictures(*shared) ? edit::pictures_on(*shared, 2)
                                                          : edit::tiles_of_cut(*shared, sheet.cut);
    }
    SheetDialog dialog(session, std::move(sheet), !known, &window);
    if (dialog.exec() != QDialog::Accepted) return false;
    session.apply(edit::with_sheet(session.project(), dialog.sheet()), Session::tr("Bring in a sheet"));
    if (!dialog.sheet().tiles.empty())
        session.looking().set_stamp({1, 1, {Tile(dialog.sheet().tiles.begin()->first)}}, file);
    if (!lost.empty())
        emit session.message(
            Session::tr("%1 tiles are not on the picture any more. They are kept where they are "
                        "painted")
                .arg(lost.size()));
    return true;
}

bool add_grey_sheet(Session& session, QWidget& window) {
    const auto root = sheets_root(session);
    QString path;
    if (root) {
        root->mkpath(QStringLiteral("sheets"));
        path = root->filePath(QStringLiteral("sheets/grey.png"));
        for (int n = 2; QFileInfo::exists(path); ++n)
            path = root->filePath(QStringLiteral("sheets/grey-%1.png").arg(n));
    } else {
        path = QFileDialog::getSaveFileName(&window, Session::tr("Where should the grey sheet lie?"),
                                            QStringLiteral("grey.png"), Session::tr("Pictures (*.png)"));
    }
    if (path.isEmpty()) return false;
    const Layer* layer = session.tile_layer();
    const double cell_m = layer ? (*layer->tiles)->cell_m : session.grid_m();
    constexpr int k_smallest_px = 8, k_largest_px = 256;
    TileSheet sheet = edit::grey_sheet(
        std::clamp(int(std::lround(cell_m * session.project().pixels_per_m)), k_smallest_px, k_largest_px));
    if (const auto saved = io::save_picture(*sheet.picture, path.toStdString()); !saved) {
        QMessageBox::warning(&window, Session::tr("Could not save"),
                             QString::fromStdString(saved.error().text()));
        return false;
    }
    sheet.file = sheet_file_for(session, path);
    sheet.image = QFileInfo(path).fileName().toStdString();
    const std::string file = sheet.file;
    session.apply(edit::with_sheet(session.project(), std::move(sheet)), Session::tr("Grey sheet"));
    // A layer of plain cells goes on in grey tiles: its cells become whole ones.
    if (layer && (*layer->tiles)->sheet_file.empty()) {
        TileLayer tiles = **layer->tiles;
        tiles.sheet_file = file, tiles.sheet = find_sheet(session.project(), file);
        session.apply(edit::with_tile_layer(session.stored_level(), layer->id, std::move(tiles)),
                      Session::tr("Grey sheet"));
    }
    session.looking().set_stamp({}, file);
    return true;
}

void edit_sheet(Session& session, QWidget& window) {
    const auto sheet = find_sheet(session.project(), session.looking().sheet());
    if (!sheet) {
        emit session.message(Session::tr("Choose a sheet in the tray first, or bring one in"));
        return;
    }
    SheetDialog dialog(session, *sheet, false, &window);
    if (dialog.exec() != QDialog::Accepted || dialog.sheet() == *sheet) return;
    if (dialog.sheet().picture != sheet->picture) { // grey pieces were drawn on it
        const auto folder = io::files_folder(session.document(), session.files().file().toStdString());
        const auto saved =
            io::save_picture(*dialog.sheet().picture, io::picture_path(dialog.sheet(), folder));
        if (!saved) {
            QMessageBox::warning(&window, Session::tr("Could not save"),
                                 QString::fromStdString(saved.error().text()));
            return;
        }
    }
    session.apply(edit::with_sheet(session.project(), dialog.sheet()), Session::tr("Change a sheet"));
}

void add_tile_layer(Session& session) {
    const Layer layer = new_tile_layer(session.stored_level(), session.project(), session.looking().sheet());
    session.apply(edit::with_layer(session.stored_level(), layer), Session::tr("Add a layer of tiles"));
    session.looking().set_layer(int(session.level().layers.size()) - 1);
}

namespace {

/// The ground in the hand; null, with a message, where there is none.
const Edging* ground_in_hand(Session& session) {
    const auto sheet = find_sheet(session.project(), session.looking().sheet());
    const int ground = session.looking().ground();
    if (sheet && ground >= 0 && size_t(ground) < sheet->edgings.size())
        return &sheet->edgings[size_t(ground)];
    emit session.message(
        Session::tr("Choose a ground in the tray first. A sheet's grounds are marked in “Cut and "
                    "collision”, under Edging"));
    return nullptr;
}

} // namespace

void edge_anew(Session& session) {
    const Edging* edging = ground_in_hand(session);
    const Layer* layer = session.tile_layer();
    if (!edging || !layer) return;
    TileLayer tiles = **layer->tiles;
    tiles.grid = edit::edged_anew(tiles.grid, *edging, true);
    session.apply(edit::with_tile_layer(session.stored_level(), layer->id, std::move(tiles)),
                  Session::tr("Edge anew"));
}

void clothe(Session& session) {
    const Edging* edging = ground_in_hand(session);
    if (!edging) return;
    Level level = session.stored_level();
    const Layer* solid = nullptr;
    for (const Shared<Layer>& layer : level.layers)
        if (!solid && layer->tiles && (*layer->tiles)->solid) solid = layer.get();
    if (!solid) {
        emit session.message(Session::tr("No layer is solid: there is nothing to clothe"));
        return;
    }
    const TileLayer matter = **solid->tiles;
    const LayerId solid_id = solid->id;
    const Layer* chosen = session.tile_layer();
    LayerId art_id = chosen ? chosen->id : solid_id;
    if (art_id == solid_id) {
        Layer made = new_tile_layer(level, session.project(), session.looking().sheet());
        TileLayer tiles = **made.tiles;
        tiles.origin = matter.origin, tiles.solid = false, tiles.depth = matter.depth;
        made.tiles = Shared<TileLayer>(std::move(tiles));
        made.name = Session::tr("Art").toStdString();
        art_id = made.id;
        level = edit::with_layer(level, made);
    }
    const TileLayer art = edit::clothed(*edit::tile_layer(level, art_id), matter, level.frame, *edging);
    session.apply(edit::with_tile_layer(level, art_id, art), Session::tr("Clothe"));
}

void mirror_stamp(Session& session) {
    session.looking().set_stamp(edit::mirrored(session.looking().stamp()), session.looking().sheet());
}

void turn_stamp(Session& session) {
    session.looking().set_stamp(edit::turned(session.looking().stamp(), 1), session.looking().sheet());
}

} // namespace rubble::app
