#include "commands/pieces.h"

#include <algorithm>

#include <QInputDialog>

#include "build/bring_in.h"
#include "build/joints.h"
#include "build/piece_body.h"
#include "edit/items.h"
#include "edit/kits.h"
#include "edit/project.h"
#include "io/project_file.h"
#include "kits/piece_dialog.h"

namespace rubble::app {

namespace {

/// A kit and one of its pieces.
struct PieceAt {
    std::shared_ptr<const Kit> kit;
    std::shared_ptr<const Piece> piece;
};

/// That of the selected place, else the one in the hand.
PieceAt piece_meant(const Session& session) {
    const Item* item = session.selected();
    const PlacedPiece* placed = item ? item->piece() : nullptr;
    PieceAt out;
    out.kit = find_kit(session.project(), placed ? placed->kit_file : session.looking().kit());
    if (out.kit) out.piece = out.kit->piece(placed ? placed->piece_id : session.looking().piece());
    return out;
}

QString asked(QWidget& window, const QString& title, const QString& proposed) {
    bool agreed = false;
    const QString name =
        QInputDialog::getText(&window, title, Session::tr("Name"), QLineEdit::Normal, proposed, &agreed);
    return agreed ? name.trimmed() : QString();
}

Kit with_all_made(Kit kit) { return build::with_joints_found(build::with_brush_bodies(std::move(kit))); }

/// The kit in the hand, the project's first, or a new one on the project's module.
Kit kit_for_brushes(const Session& session) {
    const Project& project = session.project();
    auto known = find_kit(project, session.looking().kit());
    if (!known && !project.kits.empty()) known = project.kits[0];
    if (known) return *known;
    Kit kit;
    kit.name = "Kit", kit.file = "kits/kit/kit.json";
    kit.module_m = Vec3(project.module_m, project.module_m, std::max(project.measures.ceiling_m, 1.0) + 1);
    return kit;
}

void show_opened(Session& session, const Kit& kit, const Piece& piece) {
    const auto& levels = session.document().levels;
    const auto known = std::find_if(levels.begin(), levels.end(), [&](const OpenLevel& open) {
        return open.kit == kit.file && open.piece == piece.id;
    });
    const size_t index = size_t(known - levels.begin());
    if (known == levels.end()) {
        Document next = session.document();
        OpenLevel open;
        open.level =
            Shared<Level>(with_files_of(*next.project, edit::level_of(kit, piece, session.stored_level())));
        open.kit = kit.file, open.piece = piece.id;
        next.levels.push_back(std::move(open));
        session.documents().add(std::move(next), Session::tr("Open a piece"));
    }
    session.documents().show_level(index);
    session.documents().show_message(piece.items.empty()
                                         ? Session::tr("Draw what %1 is met as; it changes everywhere")
                                               .arg(QString::fromStdString(piece.name))
                                         : Session::tr("What is changed here changes everywhere %1 stands")
                                               .arg(QString::fromStdString(piece.name)));
}

} // namespace

void make_piece(Session& session, QWidget& window, QString name) {
    Kit kit = kit_for_brushes(session);
    auto made = edit::piece_of_brushes(kit, session.stored_level(), session.selection(), "piece");
    if (!made)
        return session.documents().show_message(Session::tr("Select the brushes that it is to be made of"));
    if (name.isEmpty()) name = asked(window, Session::tr("Make a piece"), Session::tr("Piece"));
    if (name.isEmpty()) return;
    made = edit::piece_of_brushes(kit, session.stored_level(), session.selection(), name.toStdString());
    const std::string id = made->piece.id;
    kit = with_all_made(edit::with_piece(std::move(kit), std::move(made->piece)));
    const std::string file = kit.file;
    Document next = edit::with_project(session.document(), edit::with_kit(session.project(), std::move(kit)));
    PlacedPiece placed;
    placed.kit_file = file, placed.piece_id = id, placed.place = made->place;
    Level level = edit::without(session.stored_level(), made->brushes);
    const ItemId at = edit::fresh_id(level, id_prefix(placed));
    const int layer = layer_of(session.stored_level(), made->brushes[0]);
    level = edit::with_item(level, std::max(layer, 0), Item{at, {}, false, std::move(placed), {}});
    next = edit::with_level(next, session.documents().level_index(),
                            with_files_of(*next.project, std::move(level)));
    session.documents().add(std::move(next), Session::tr("Make a piece"));
    session.looking().set_piece(file, id);
    session.select({at});
}

void open_piece(Session& session) {
    const PieceAt meant = piece_meant(session);
    if (!meant.piece) return session.documents().show_message(Session::tr("Select a piece of a kit"));
    const Item* place = session.selected();
    session.looking().set_around(
        {session.documents().level_index(), place && place->piece() ? place->id : ItemId{}});
    show_opened(session, *meant.kit, *meant.piece);
}

void copy_piece(Session& session, QWidget& window, QString name) {
    const PieceAt meant = piece_meant(session);
    if (!meant.piece) return session.documents().show_message(Session::tr("Select a piece of a kit"));
    if (name.isEmpty())
        name = asked(window, Session::tr("Copy a piece"),
                     Session::tr("%1, copy").arg(QString::fromStdString(meant.piece->name)));
    if (name.isEmpty()) return;
    Piece copy = *meant.piece;
    copy.id = edit::fresh_piece_id(*meant.kit, build::piece_id_from(name.toStdString()));
    copy.name = name.toStdString();
    Kit kit = with_all_made(edit::with_piece(*meant.kit, copy));
    const std::string file = kit.file;
    session.apply(edit::with_kit(session.project(), std::move(kit)), Session::tr("Copy a piece"));
    session.looking().set_piece(file, copy.id);
    session.looking().set_around({});
    if (!copy.items.empty()) show_opened(session, *find_kit(session.project(), file), copy);
}

void edit_pieces(Session& session, QWidget& window) {
    const PieceAt meant = piece_meant(session);
    const auto kit = meant.kit || session.project().kits.empty() ? meant.kit : session.project().kits.front();
    if (!kit || kit->pieces.empty())
        return session.documents().show_message(Session::tr("Bring pieces in first"));
    const auto folder = io::files_folder(session.document(), session.files().file().toStdString());
    PieceDialog dialog(session, *kit, folder, meant.piece ? meant.piece->id : std::string(), &window);
    if (dialog.exec() != QDialog::Accepted || dialog.kit().pieces == kit->pieces) return;
    session.apply(edit::with_kit(session.project(), build::with_joints_found(dialog.kit())),
                  Session::tr("What a kit says of its pieces"));
}

} // namespace rubble::app
