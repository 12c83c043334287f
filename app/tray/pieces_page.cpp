#include "kits/kit_palette.h"
#include "tray/pages.h"

namespace rubble::app {

void fill_pieces(Page& page, Tray& tray) {
    auto* palette = new KitPalette(page.session());
    page.column().addWidget(palette, 1);
    page.on_refresh([palette] { palette->refresh(); });
    QObject::connect(palette, &KitPalette::pieceTaken, &tray,
                     [&tray] { emit tray.toolWanted(QStringLiteral("piece")); });
    page.add_button(Tray::tr("Make a piece of brushes"),
                    [&tray] { emit tray.commandWanted(QStringLiteral("make-piece")); });
    page.add_button(Tray::tr("Copy the piece"),
                    [&tray] { emit tray.commandWanted(QStringLiteral("copy-piece")); });
    page.add_button(Tray::tr("Met as, joints, values…"),
                    [&tray] { emit tray.commandWanted(QStringLiteral("edit-pieces")); });
    if (page.session().project().kits.empty())
        page.add_text(
            Tray::tr("Pieces are models that fit a module. Drop GLB, glTF or OBJ files on the window, "
                     "one or a folder of them."));
    Session& session = page.session();
    page.add_heading(Tray::tr("Assemblies"));
    QListWidget* list = page.add_short_list(Tray::tr("Assemblies"));
    page.on_refresh([&session, list] {
        list->clear();
        for (const auto& assembly : session.project().assemblies) {
            auto* item = new QListWidgetItem(QString::fromStdString(assembly->name), list);
            item->setData(Qt::UserRole, QString::fromStdString(assembly->file));
            if (!assembly->flaw.empty()) item->setToolTip(QString::fromStdString(assembly->flaw));
            if (assembly->file == session.looking().assembly()) list->setCurrentItem(item);
        }
        list->setVisible(list->count() > 0);
        fit_to_rows(*list, 6);
    });
    QObject::connect(list, &QListWidget::itemClicked, &tray, [&session, &tray](QListWidgetItem* item) {
        session.looking().set_assembly(item->data(Qt::UserRole).toString().toStdString());
        emit tray.toolWanted(QStringLiteral("assembly"));
    });
    page.add_button(Tray::tr("Make an assembly"),
                    [&tray] { emit tray.commandWanted(QStringLiteral("make-assembly")); });
    page.add_button(Tray::tr("Cast a level…"),
                    [&tray] { emit tray.commandWanted(QStringLiteral("cast")); });
    page.add_button(Tray::tr("Bring pieces in…"),
                    [&tray] { emit tray.commandWanted(QStringLiteral("bring-pieces")); });
}

} // namespace rubble::app
