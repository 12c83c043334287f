#include <QCheckBox>

#include "kits/kit_palette.h"
#include "tray/pages.h"

namespace rubble::app {

void fill_props(Page& page, Tray& tray) {
    Session& session = page.session();
    auto* palette = new KitPalette(session, KitPalette::Shows::props);
    page.column().addWidget(palette, 1);
    page.on_refresh([palette] { palette->refresh(); });
    QObject::connect(palette, &KitPalette::pieceTaken, &tray,
                     [&tray] { emit tray.toolWanted(QStringLiteral("prop")); });
    auto* leans = new QCheckBox(Tray::tr("Leans with the ground"));
    leans->setAccessibleName(leans->text());
    leans->setToolTip(Tray::tr("Props are turned to the slope that they stand on"));
    page.column().addWidget(leans);
    page.on_refresh([&session, leans] { leans->setChecked(session.looking().leans()); });
    QObject::connect(leans, &QCheckBox::clicked, &page,
                     [&session](bool on) { session.looking().set_leans(on); });
    page.add_button(Tray::tr("Set down"),
                    [&tray] { emit tray.commandWanted(QStringLiteral("prop-set-down")); });
    page.add_button(Tray::tr("Strew over the faces…"),
                    [&tray] { emit tray.commandWanted(QStringLiteral("strew")); });
    page.add_button(Tray::tr("Bring models in…"),
                    [&tray] { emit tray.commandWanted(QStringLiteral("bring-pieces")); });
    if (session.project().kits.empty())
        page.add_text(Tray::tr("Props are models that sit on no module: drop GLB, glTF or OBJ files on the "
                               "window, and let them sit freely."));
}

} // namespace rubble::app
