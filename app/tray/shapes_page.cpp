#include "shape_list.h"
#include "tray/pages.h"
#include "tray/tool_buttons.h"

namespace rubble::app {

namespace {

void add_tool(ToolButtons& tools, const Tray& tray, const char* name, const QString& label) {
    const QString tool = QString::fromLatin1(name);
    tools.add(tool, label, tray.key_of(tool));
}

ToolButtons* add_tools(Page& page, Tray& tray) {
    auto* tools = new ToolButtons;
    page.column().addWidget(tools);
    QObject::connect(tools, &ToolButtons::chosen, &tray, &Tray::toolWanted);
    add_tool(*tools, tray, "select", Tray::tr("Select"));
    return tools;
}

} // namespace

void fill_shapes(Page& page, Tray& tray) {
    page.add_heading(Tray::tr("Shapes"));
    ToolButtons* tools = add_tools(page, tray);
    add_tool(*tools, tray, "cut", Tray::tr("Cut"));
    for (const ShapeEntry& entry : all_shapes()) add_tool(*tools, tray, entry.tool, shape_name(entry.shape));
    add_tool(*tools, tray, "plane", Tray::tr("Plane"));
    add_tool(*tools, tray, "hole", Tray::tr("Hole"));
    add_tool(*tools, tray, "mass", Tray::tr("Mass"));
    add_tool(*tools, tray, "door", Tray::tr("Door"));
    add_tool(*tools, tray, "window", Tray::tr("Window"));
    add_tool(*tools, tray, "archway", Tray::tr("Archway"));
    add_tool(*tools, tray, "knife", Tray::tr("Knife"));
    add_tool(*tools, tray, "mirror", Tray::tr("Mirror"));
    add_tool(*tools, tray, "measure", Tray::tr("Measure"));
    page.add_text(
        Tray::tr("Drag a base, lift the height, click; click an outline's or a wall's points. Openings go "
                 "into the wall you point at."));
}

void fill_elements(Page& page, Tray& tray) {
    page.add_heading(Tray::tr("Elements"));
    ToolButtons* tools = add_tools(page, tray);
    add_tool(*tools, tray, "place start", Tray::tr("Start"));
    add_tool(*tools, tray, "place goal", Tray::tr("Goal"));
    add_tool(*tools, tray, "place place", Tray::tr("Place"));
    add_tool(*tools, tray, "place note", Tray::tr("Note"));
    page.add_text(Tray::tr("A named place is somewhere to make claims about: that one gets there, or must "
                           "not."));
}

} // namespace rubble::app
