#include "check/cell_answers.h"
#include "facts/pages.h"
#include "motion/cells/puzzle.h"
#include "numbers.h"

namespace rubble::app {

namespace {

/// The solution as a run that can be watched; nothing where the check's level is not the one that was solved.
std::optional<check::Witness> solution_run(const Session& session) {
    const auto& result = session.built().check;
    const PuzzleAnswer& known = session.puzzle_answer();
    if (!known.newest || !session.up_to_date() || !result || !result->world ||
        !result->world->moving().puzzle || result->starts.empty())
        return {};
    const motion::World& world = *result->world;
    const Vec3& start = result->starts[0];
    motion::Recorder recorder(world, result->character, motion::begun_at(world, result->character, start));
    if (!check::play_letters(recorder, world, known.answer.letters)) return {};
    check::Witness witness;
    witness.recording = recorder.recording();
    witness.recording.start = start;
    witness.legs.push_back({nullptr, 0});
    witness.end = recorder.state();
    return witness;
}

} // namespace

void add_puzzle(Page& page, Facts& facts) {
    Session& session = page.session();
    QLabel* heading = page.add_heading(Facts::tr("The puzzle"));
    QLabel* text = page.add_text({}, "plain");
    QPushButton* watch = page.add_button(Facts::tr("Watch the solution"), [&session, &facts] {
        if (const auto run = solution_run(session))
            emit facts.watchWanted(*run, Facts::tr("Shortest solution"));
        else
            emit session.message(Facts::tr("It is being solved again; try in a moment"));
    });
    page.on_refresh([&session, heading, text, watch] {
        const PuzzleAnswer& known = session.puzzle_answer();
        heading->setVisible(known.puzzle != nullptr), text->setVisible(known.puzzle != nullptr);
        watch->setVisible(known.puzzle && known.answer.solvable.value_or(false));
        if (!known.puzzle) return;
        const solve::Answer& answer = known.answer;
        QString rows;
        const auto row = [&rows](const QString& what, const QString& value) {
            rows += QStringLiteral("<tr><td>%1</td><td align=right>&nbsp;%2</td></tr>")
                        .arg(what.toHtmlEscaped(), value.toHtmlEscaped());
        };
        row(Facts::tr("Can be solved"), !answer.solvable   ? Facts::tr("undecided")
                                        : *answer.solvable ? Facts::tr("yes")
                                                           : Facts::tr("no"));
        if (answer.solvable.value_or(false)) {
            row(Facts::tr("Steps at least"), QString::number(answer.steps()));
            row(Facts::tr("pushes among them"), QString::number(answer.pushes));
        }
        if (answer.too_late)
            row(Facts::tr("Steps at least, of %1 allowed").arg(known.puzzle->most_steps),
                QString::number(answer.steps()));
        row(answer.complete ? Facts::tr("States") : Facts::tr("States seen, not all"),
            QString::number(answer.states));
        if (answer.complete) {
            const auto later = std::count_if(answer.ruins.begin(), answer.ruins.end(), [](const auto& ruin) {
                return !ruin.noticed_after || *ruin.noticed_after > 0;
            });
            row(Facts::tr("Ruins"), QString::number(answer.ruins.size()));
            if (later > 0) row(Facts::tr("noticed only later"), QString::number(later));
            row(Facts::tr("States that are ruined"),
                QStringLiteral("%1 %").arg(answer.ruined_share * 100, 0, 'f', 0));
        }
        if (answer.card) {
            row(Facts::tr("Shortest solutions"), QString::number(answer.card->shortest_ways, 'g', 6));
            row(Facts::tr("Decisions on the way"), QString::number(answer.card->decisions));
            row(Facts::tr("Longest without a choice"),
                Facts::tr("%1 steps").arg(answer.card->longest_without_choice));
            if (answer.card->narrowest)
                row(Facts::tr("Narrowest moment past a foe"),
                    Facts::tr("%1 steps").arg(*answer.card->narrowest));
            if (answer.card->cells_known && !answer.card->astray.empty())
                row(Facts::tr("Cells where crates only go astray"),
                    QString::number(answer.card->astray.size()));
            if (answer.card->cells_known)
                row(Facts::tr("Cells never used"), QString::number(answer.card->never_used.size()));
        }
        if (!known.decoration.empty()) {
            QStringList names;
            for (const ItemId& id : known.decoration)
                if (const Item* item = find_item(session.level(), id))
                    names << QString::fromStdString(item->title());
            row(Facts::tr("Can be left out"), names.join(QStringLiteral(", ")));
        }
        text->setText(QStringLiteral("<table width=100% cellpadding=1>%1</table>").arg(rows) +
                      (known.newest ? QString() : Facts::tr("Being solved again…")));
    });
}

} // namespace rubble::app
