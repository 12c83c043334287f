#include "commands/editing.h"
#include "edit/repeats.h"
#include "facts/pages.h"
#include "numbers.h"

namespace rubble::app {

void add_copies(Page& page, const ItemId& id) {
    Session& session = page.session();
    const size_t count = edit::linked_to(session.level(), id).size();
    if (count == 0) return;
    page.add_text(Facts::tr("Linked with %1: changing one changes all")
                      .arg(counted(int(count), Facts::tr("copy"), Facts::tr("copies"))),
                  "meaning");
    page.add_button(Facts::tr("Select all linked copies"), [&session] { select_linked(session); });
    page.add_button(Facts::tr("Make independent"), [&session] { unlink_selection(session); });
}

} // namespace rubble::app
