#include "io/export_parts.h"
#include "numbers.h"
#include "tray/pages.h"

namespace rubble::app {

void fill_hand_off(Page& page, Tray& tray) {
    Session& session = page.session();
    page.add_heading(Tray::tr("What the file will contain"));
    QLabel* contents = page.add_text({});
    page.on_refresh([&session, contents] {
        if (!session.built().check) return;
        const io::ExportCounts& counts = session.built().export_counts;
        contents->setText(
            Tray::tr("%1 by layer and group\n%2 triangles, %3 of collision\n%4 with their "
                     "values\n%5\nMetres, y up")
                .arg(counted(int(counts.parts), Tray::tr("part"), Tray::tr("parts")))
                .arg(counts.triangles)
                .arg(counts.collision_triangles)
                .arg(counted(int(counts.elements), Tray::tr("element"), Tray::tr("elements")),
                     counted(int(counts.materials), Tray::tr("material"), Tray::tr("materials"))));
    });
    page.add_heading(Tray::tr("What is known of it"));
    QLabel* known = page.add_text({});
    page.on_refresh([&session, known] {
        const auto& result = session.built().check;
        if (!result) return;
        int holds = 0, blockers = 0;
        for (const auto& claim : result->claims) holds += claim.state == check::ClaimState::holds;
        for (const auto& finding : result->findings) blockers += finding.severity == check::Severity::blocker;
        known->setText(Tray::tr("%1 of %2 claims hold\n%3 open")
                           .arg(holds)
                           .arg(result->claims.size())
                           .arg(counted(blockers, Tray::tr("blocker"), Tray::tr("blockers"))));
    });
    page.add_button(Tray::tr("Make a parcel…"),
                    [&tray] { emit tray.commandWanted(QStringLiteral("parcel")); })
        ->setProperty("role", "main");
    page.add_button(Tray::tr("Export…"), [&tray] { emit tray.exportWanted(); });
}

} // namespace rubble::app
