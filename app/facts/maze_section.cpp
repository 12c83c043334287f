#include "facts/pages.h"
#include "numbers.h"

namespace rubble::app {

void add_maze(Page& page) {
    Session& session = page.session();
    QLabel* heading = page.add_heading(Facts::tr("The maze"));
    QLabel* text = page.add_text({}, "plain");
    page.on_refresh([&session, heading, text] {
        const auto& result = session.built().check;
        const auto maze = result ? result->maze : nullptr;
        heading->setVisible(maze != nullptr), text->setVisible(maze != nullptr);
        if (!maze) return;
        QString rows;
        const auto row = [&rows](const QString& what, const QString& value) {
            rows += QStringLiteral("<tr><td>%1</td><td align=right>&nbsp;%2</td></tr>")
                        .arg(what.toHtmlEscaped(), value.toHtmlEscaped());
        };
        row(Facts::tr("Corridors"), metres_text(maze->corridors_m));
        row(Facts::tr("as a rule wide"), metres_text(maze->usual_m));
        row(Facts::tr("at the narrowest"), metres_text(maze->narrowest_m));
        row(Facts::tr("Shortest way"), metres_text(maze->shortest.length_m));
        row(Facts::tr("of the corridors"), QStringLiteral("%1 %").arg(maze->on_the_way() * 100, 0, 'f', 0));
        row(maze->longest_is_longest ? Facts::tr("Longest way") : Facts::tr("Longest way found"),
            metres_text(maze->longest.length_m));
        row(Facts::tr("Loops"), QString::number(maze->loops));
        row(Facts::tr("Dead ends"), QString::number(maze->dead_ends.size()));
        if (maze->twice_m > 0) row(Facts::tr("walked twice for them"), metres_text(maze->twice_m));
        for (const auto& opening : maze->openings)
            row(Facts::tr("Open %1, %2 to %3, %4: no longer twice")
                    .arg(plain_number(opening.from.x), plain_number(opening.from.y),
                         plain_number(opening.to.x), plain_number(opening.to.y)),
                metres_text(opening.saves_m));
        for (const auto& shortcut : maze->shortcuts)
            row(Facts::tr("A shortcut saves"), metres_text(shortcut.saves_m));
        text->setText(QStringLiteral("<table width=100% cellpadding=1>%1</table>").arg(rows));
    });
}

} // namespace rubble::app
