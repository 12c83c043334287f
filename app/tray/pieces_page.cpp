#include <QMenu>
#include <QToolButton>

#include "kits/kit_palette.h"
#include "tray/pages.h"

namespace rubble::app {

void fill_pieces(Page& page, Tray& tray) {
    auto* palette = new KitPalette(page.session());
    page.column().addWidget(palette, 1);
    page.on_refresh([palette] { palette->refresh(); });
    QObject::connect(palette, &KitPalette::pieceTaken, &tray,
                     [&tray] { emit tray.toolWanted(QStringLiteral("piece")); });
    auto* kit = new QToolButton;
    kit->setText(Tray::tr("Pieces and kits…"));
    kit->setPopupMode(QToolButton::InstantPopup);
    kit->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    auto* menu = new QMenu(kit);
    const std::pair<QString, const char*> entries[] = {
        {Tray::tr("Met as, joints, values…"), "edit-pieces"},
        {Tray::tr("Make a piece of the selected brushes…"), "make-piece"},
        {Tray::tr("Copy the piece…"), "copy-piece"},
        {Tray::tr("Open the piece"), "open-assembly"},
        {Tray::tr("Bring pieces in…"), "bring-pieces"}};
    for (const auto& [text, command] : entries)
        menu->addAction(text, &tray, [&tray, command = command] {
            emit tray.commandWanted(QString::fromLatin1(command));
        });
    kit->setMenu(menu);
    page.column().addWidget(kit);
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
    page.add_button(Tray::tr("Cast a level…"), [&tray] { emit tray.commandWanted(QStringLiteral("cast")); });
}

} // namespace rubble::app
