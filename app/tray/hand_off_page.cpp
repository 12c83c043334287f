#include "edit/finals.h"
#include "io/export_parts.h"
#include "io/level_merge.h"
#include "numbers.h"
#include "tray/pages.h"

namespace rubble::app {

namespace {

QString in_words(const io::MergeConflict& one, const Level& level) {
    const Item* item = find_item(level, {one.id});
    const QString name = one.id.empty() ? Tray::tr("The level itself")
                         : item         ? QString::fromStdString(item->title())
                                        : QString::fromStdString(one.id);
    if (one.mine.is_null()) return Tray::tr("%1: gone in mine, changed in theirs").arg(name);
    if (one.theirs.is_null()) return Tray::tr("%1: changed in mine, gone in theirs").arg(name);
    QStringList keys;
    for (const std::string& key : one.keys)
        keys << (key == "place"   ? Tray::tr("place")
                 : key == "shape" ? Tray::tr("shape")
                                  : QString::fromStdString(key));
    return Tray::tr("%1: %2").arg(name, keys.isEmpty() ? Tray::tr("removed by one side") : keys.join(", "));
}

/// What a merge left to be decided, one after the other.
void add_conflicts(Page& page, Tray& tray) {
    Session& session = page.session();
    if (io::conflicts_of(session.level()).empty()) return;
    page.add_heading(Tray::tr("Changed by both sides"));
    QListWidget* list = page.add_short_list(Tray::tr("Changed by both sides"));
    page.on_refresh([&session, list] {
        const int row = list->currentRow();
        list->clear();
        for (const io::MergeConflict& one : io::conflicts_of(session.level()))
            list->addItem(in_words(one, session.level()));
        list->setCurrentRow(std::clamp(row, 0, std::max(0, list->count() - 1)));
        fit_to_rows(*list, 6);
    });
    QObject::connect(list, &QListWidget::itemClicked, &page, [&session, list] {
        const auto all = io::conflicts_of(session.level());
        const size_t at = size_t(list->currentRow());
        if (at < all.size() && find_item(session.level(), {all[at].id})) session.select({{all[at].id}});
    });
    const auto decide = [&session, &tray, list](bool theirs) {
        const int row = list->currentRow();
        if (row < 0) return;
        auto next = io::with_conflict_decided(session.stored_level(), size_t(row), theirs);
        if (!next) return session.documents().show_message(QString::fromStdString(next.error().message));
        Level level = with_files_of(session.project(), std::move(*next));
        session.apply(std::move(level), theirs ? Tray::tr("Take theirs") : Tray::tr("Keep mine"));
        QMetaObject::invokeMethod(&tray, &Tray::fill_again, Qt::QueuedConnection);
    };
    page.add_button(Tray::tr("Keep mine"), [decide] { decide(false); });
    page.add_button(Tray::tr("Take theirs"), [decide] { decide(true); });
}

} // namespace

void fill_hand_off(Page& page, Tray& tray) {
    add_conflicts(page, tray);
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
    QLabel* grey = page.add_text({});
    page.on_refresh([&session, grey] {
        const edit::GreyCount count = edit::grey_left(session.level());
        grey->setText(Tray::tr("%1 still grey, %2 replaced by finals").arg(count.grey).arg(count.finals));
    });
    add_names(page, tray);
    page.add_button(Tray::tr("Lay finals of the kit"),
                    [&tray] { emit tray.commandWanted(QStringLiteral("lay-finals")); });
    page.add_button(Tray::tr("Make a parcel…"),
                    [&tray] { emit tray.commandWanted(QStringLiteral("parcel")); })
        ->setProperty("role", "main");
    page.add_button(Tray::tr("Export…"), [&tray] { emit tray.exportWanted(); });
}

} // namespace rubble::app
