#include "tiles/sheet_palette.h"
#include "tray/pages.h"

namespace rubble::app {

void fill_tiles(Page& page, Tray& tray) {
    Session& session = page.session();
    auto* palette = new SheetPalette(session);
    page.column().addWidget(palette, 1);
    page.on_refresh([palette] { palette->refresh(); });
    page.add_button(Tray::tr("Bring in a sheet…"),
                    [&tray] { emit tray.commandWanted(QStringLiteral("bring-sheet")); });
    page.add_button(Tray::tr("Begin with a grey sheet"),
                    [&tray] { emit tray.commandWanted(QStringLiteral("grey-sheet")); });
    QPushButton* edit = page.add_button(Tray::tr("Cut and collision…"),
                                        [&tray] { emit tray.commandWanted(QStringLiteral("edit-sheet")); });
    page.on_refresh([&session, edit] { edit->setEnabled(!session.looking().sheet().empty()); });
    QObject::connect(&session.looking(), &WayOfLooking::stampChanged, edit,
                     [&session, edit] { edit->setEnabled(!session.looking().sheet().empty()); });
}

} // namespace rubble::app
