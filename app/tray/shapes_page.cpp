#include "tray/pages.h"
#include "tray/tool_buttons.h"

namespace rubble::app {

namespace {

ToolButtons* add_tools(Page& page, Tray& tray) {
    auto* tools = new ToolButtons;
    page.column().addWidget(tools);
    QObject::connect(tools, &ToolButtons::chosen, &tray, &Tray::toolWanted);
    tools->add(QStringLiteral("select"), Tray::tr("Select"), QStringLiteral("Q"));
    return tools;
}

} // namespace

void fill_shapes(Page& page, Tray& tray) {
    page.add_heading(Tray::tr("Shapes"));
    ToolButtons* tools = add_tools(page, tray);
    tools->add(QStringLiteral("box"), Tray::tr("Box"), QStringLiteral("B"));
    tools->add(QStringLiteral("ramp"), Tray::tr("Ramp"), QStringLiteral("T"));
    tools->add(QStringLiteral("cut"), Tray::tr("Cut"), QStringLiteral("X"));
    page.add_text(Tray::tr("Choose a shape, drag its base where it shall stand, lift the height and click. A "
                           "cut opens a doorway or a pit."));
}

void fill_elements(Page& page, Tray& tray) {
    page.add_heading(Tray::tr("Elements"));
    ToolButtons* tools = add_tools(page, tray);
    tools->add(QStringLiteral("place start"), Tray::tr("Start"));
    tools->add(QStringLiteral("place goal"), Tray::tr("Goal"));
    tools->add(QStringLiteral("place place"), Tray::tr("Place"));
    tools->add(QStringLiteral("place note"), Tray::tr("Note"));
    page.add_text(Tray::tr("A named place is somewhere to make claims about: that one gets there, or must "
                           "not."));
}

} // namespace rubble::app
