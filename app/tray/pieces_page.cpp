#include "kits/kit_palette.h"
#include "tray/pages.h"

namespace rubble::app {

void fill_pieces(Page& page, Tray& tray) {
    auto* palette = new KitPalette(page.session());
    page.column().addWidget(palette, 1);
    page.on_refresh([palette] { palette->refresh(); });
    QObject::connect(palette, &KitPalette::pieceTaken, &tray,
                     [&tray] { emit tray.toolWanted(QStringLiteral("piece")); });
    if (page.session().project().kits.empty())
        page.add_text(
            Tray::tr("Pieces are models that fit a module. Drop GLB, glTF or OBJ files on the window, "
                     "one or a folder of them."));
    page.add_button(Tray::tr("Bring pieces in…"),
                    [&tray] { emit tray.commandWanted(QStringLiteral("bring-pieces")); });
}

} // namespace rubble::app
