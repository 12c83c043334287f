#include <QPainter>

#include "element_names.h"
#include "level/element_kinds.h"
#include "tools/tool_list.h"
#include "tray/pages.h"
#include "tray/tool_buttons.h"
#include "view/overlay.h"

namespace rubble::app {

namespace {

bool paints_tiles(const ToolEntry& tool) { return QByteArray(tool.id).startsWith("tile_"); }

template <class Wanted> void add_tools(Page& page, Tray& tray, Wanted wanted) {
    const Stage stage = page.session().stage();
    const auto holds = [](auto list, auto one) {
        return std::find(list.begin(), list.end(), one) != list.end();
    };
    auto* buttons = new ToolButtons;
    for (const ToolEntry& tool : all_tools())
        if (holds(tool.trays, stage) && holds(tool.frames, page.session().level().frame) && wanted(tool))
            buttons->add(tool, tray.key_of(QString::fromLatin1(tool.id)));
    page.column().addWidget(buttons);
    QObject::connect(buttons, &ToolButtons::chosen, &tray, &Tray::toolWanted);
}

/// Left out where there is no room for all of it.
void add_hint(Page& page, const QString& text) { page.add_text(text)->setObjectName(QStringLiteral("hint")); }

} // namespace

void add_stage_tools(Page& page, Tray& tray) {
    add_tools(page, tray, [](const ToolEntry&) { return true; });
}

void fill_shapes(Page& page, Tray& tray) {
    if (page.session().level().frame != Frame::space) {
        add_tools(page, tray,
                  [](const ToolEntry& tool) { return paints_tiles(tool) || &tool == &all_tools().front(); });
        fill_tiles(page, tray);
        page.add_heading(Tray::tr("Brushes"));
        add_tools(page, tray,
                  [](const ToolEntry& tool) { return !paints_tiles(tool) && &tool != &all_tools().front(); });
        return;
    }
    add_tools(page, tray, [](const ToolEntry&) { return true; });
    add_hint(page, Tray::tr("Drag a base, lift the height, click; click an outline's or a wall's points. "
                            "Openings go into the wall you point at."));
}

namespace {

/// The kinds of elements that the project made itself, each with its sign, and the way to make one.
void add_own_kinds(Page& page, Tray& tray) {
    Session& session = page.session();
    page.add_heading(Tray::tr("Of this project"));
    auto* buttons = new ToolButtons;
    for (const auto& kind : session.project().element_kinds) {
        if (kind->name.empty()) continue; // a limit to one that every project has
        QPixmap picture(80, 64);
        picture.setDevicePixelRatio(2);
        picture.fill(Qt::transparent);
        QPainter painter(&picture);
        draw_element(painter, {20, 28}, *kind, false);
        painter.end();
        buttons->add(QString::fromStdString(kind->key), QString::fromStdString(kind->name), picture);
    }
    page.column().addWidget(buttons);
    QObject::connect(buttons, &ToolButtons::chosen, &tray, [&session, &tray](const QString& key) {
        session.looking().set_own_kind(key.toStdString());
        emit tray.toolWanted(QStringLiteral("place own"));
    });
    page.add_button(Tray::tr("Kinds of elements…"),
                    [&tray] { emit tray.commandWanted(QStringLiteral("element-kinds")); });
}

} // namespace

void fill_elements(Page& page, Tray& tray) {
    page.add_heading(Tray::tr("Elements"));
    // What acts only from cell to cell is offered where one goes so.
    const bool by_cells = page.session().level().walked == Walked::by_cells;
    const bool upright = page.session().level().frame != Frame::plan;
    add_tools(page, tray, [by_cells, upright](const ToolEntry& tool) {
        for (const ElementName& name : element_names()) {
            if (QByteArray(tool.id) != name.tool) continue;
            const Acting acting = kind_of(std::string(name.kind)).acting;
            return acting == Acting::everywhere || (acting == Acting::by_cells ? by_cells : upright);
        }
        return true;
    });
    add_own_kinds(page, tray);
    add_hint(page, Tray::tr("A named place is somewhere to make claims about: the character gets there, or "
                            "must not."));
}

} // namespace rubble::app
