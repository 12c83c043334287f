#include <QPointer>
#include <QThreadPool>

#include "facts/pages.h"
#include "level/level_order.h"
#include "motion/cells/puzzle.h"
#include "solve/solve.h"

namespace rubble::app {

namespace {

/// So many situations of each level are looked at.
constexpr size_t k_most_states = 400'000;

/// The cards of all levels that are solved, in the order in which they are walked; the one that is shown is
/// bold.
QString cards_of(const std::vector<Shared<Level>>& all, size_t shown) {
    std::vector<const Level*> levels;
    for (const auto& level : all) levels.push_back(&*level);
    QString rows =
        QStringLiteral("<tr><td>%1</td><td align=right>%2</td><td align=right>%3</td><td align=right>%4</td>"
                       "<td align=right>%5</td></tr>")
            .arg(Facts::tr("Level"), Facts::tr("steps"), Facts::tr("pushes"), Facts::tr("decisions"),
                 Facts::tr("ruined"));
    for (const size_t index : in_walking_order(levels)) {
        const Level& level = *levels[index];
        if (level.walked != Walked::by_cells) continue;
        const auto puzzle = motion::puzzle_of(level);
        if (!puzzle || !puzzle->has_start || !puzzle->has_goal) continue;
        const solve::Answer answer = solve::solved(*puzzle, {k_most_states, {}, {}});
        const bool solved = answer.solvable.value_or(false);
        const QString row =
            QStringLiteral(
                "<tr><td>%1</td><td align=right>%2</td><td align=right>%3</td><td align=right>%4</td>"
                "<td align=right>%5</td></tr>")
                .arg(index == shown
                         ? QStringLiteral("<b>%1</b>").arg(QString::fromStdString(level.name).toHtmlEscaped())
                         : QString::fromStdString(level.name).toHtmlEscaped())
                .arg(solved ? QString::number(answer.steps()) : QStringLiteral("–"))
                .arg(solved ? QString::number(answer.pushes) : QStringLiteral("–"))
                .arg(answer.card ? QString::number(answer.card->decisions) : QStringLiteral("–"))
                .arg(answer.complete ? QStringLiteral("%1 %").arg(answer.ruined_share * 100, 0, 'f', 0)
                                     : QStringLiteral("–"));
        rows += row;
    }
    return QStringLiteral("<table width=100% cellpadding=1>%1</table>").arg(rows);
}

} // namespace

void add_cards(Page& page) {
    Session& session = page.session();
    QLabel* text = page.add_text({}, "plain");
    text->hide();
    QPushButton* button = page.add_button(Facts::tr("Compare with the other levels"), [&session, text] {
        std::vector<Shared<Level>> levels;
        for (const OpenLevel& open : session.document().levels) levels.push_back(open.level);
        text->setText(Facts::tr("All levels are being solved…")), text->show();
        QThreadPool::globalInstance()->start([levels = std::move(levels),
                                              shown = session.documents().level_index(),
                                              label = QPointer<QLabel>(text)] {
            const QString cards = cards_of(levels, shown);
            QMetaObject::invokeMethod(qApp, [cards, label] {
                if (label) label->setText(cards);
            });
        });
    });
    page.on_refresh([&session, button] { button->setVisible(session.puzzle_answer().puzzle != nullptr); });
}

} // namespace rubble::app
