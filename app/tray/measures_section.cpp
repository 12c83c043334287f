#include <memory>

#include "claim_names.h"
#include "edit/measures.h"
#include "numbers.h"
#include "text.h"
#include "tray/pages.h"

namespace rubble::app {

namespace {

/// More rows than this nobody reads; the buttons change them all the same.
constexpr size_t k_most_rows = 100;

QString row_text(const Level& level, const edit::Departure& departure) {
    const QString item = item_name(level, departure.item), is = metres_text(departure.is_m),
                  agreed = metres_text(departure.agreed_m);
    switch (departure.measure) {
    case edit::Measure::wall:
        return Tray::tr("%1: walls of %2, agreed %3").arg(item, is, agreed);
    case edit::Measure::door:
        return Tray::tr("%1: door %2 high, agreed %3").arg(item, is, agreed);
    case edit::Measure::ceiling:
        return Tray::tr("%1: room %2 high, agreed %3").arg(item, is, agreed);
    case edit::Measure::corridor:
        return Tray::tr("%1 to %2: %3 between them, agreed at least %4")
            .arg(item, item_name(level, departure.other), is, agreed);
    case edit::Measure::overlap:
        return Tray::tr("%1 and %2 overlap by %3, agreed %4")
            .arg(item, item_name(level, departure.other), is, agreed);
    }
    return {};
}

/// What is not as agreed in the shown level, as it was when last looked.
struct Found {
    Shared<Level> level;
    Measures agreed;
    std::vector<edit::Departure> all;
    bool looked = false;
};

void change_over(Session& session, const std::vector<edit::Departure>& wanted) {
    session.apply(edit::as_agreed(session.stored_level(), wanted), Tray::tr("Change to the agreed measures"));
}

size_t changeable(const std::vector<edit::Departure>& all) {
    return size_t(std::count_if(all.begin(), all.end(), [](const auto& one) { return one.can_follow(); }));
}

void add_numbers(Page& page) {
    Session& session = page.session();
    const auto number = [&](const QString& name, double Measures::*member, double least) {
        page.add_number({name, Tray::tr("m"), 0.05,
                         [&session, member] { return session.project().measures.*member; },
                         [&session, member, least](double to) {
                             if (!(to >= least && to <= 1000)) return;
                             Project project = session.project();
                             project.measures.*member = to;
                             session.apply(std::move(project), Tray::tr("Measures"));
                         }});
    };
    number(Tray::tr("Walls"), &Measures::wall_m, 1e-3);
    number(Tray::tr("Doors, height"), &Measures::door_m, 1e-3);
    number(Tray::tr("Rooms, height"), &Measures::ceiling_m, 1e-3);
    number(Tray::tr("Corridor, least"), &Measures::corridor_m, 0);
    number(Tray::tr("Overlap"), &Measures::overlap_m, 0);
}

void add_departures(Page& page, Tray& tray) {
    Session& session = page.session();
    const auto found = std::make_shared<Found>();
    QLabel* summary = page.add_text({});
    QListWidget* list = page.add_list(Tray::tr("Not as agreed"), 0);
    QPushButton* one = page.add_button(Tray::tr("Change this one"), [&session, found, list] {
        const int row = list->currentRow();
        if (row >= 0 && size_t(row) < found->all.size()) change_over(session, {found->all[size_t(row)]});
    });
    QPushButton* all = page.add_button({}, [&session, found] { change_over(session, found->all); });
    const auto set_buttons = [found, list, one, all] {
        const int row = list->currentRow();
        one->setEnabled(row >= 0 && size_t(row) < found->all.size() && found->all[size_t(row)].can_follow());
        all->setText(Tray::tr("Change all (%1)").arg(changeable(found->all)));
        all->setEnabled(changeable(found->all) > 0);
    };
    page.on_refresh([&session, found, summary, list, one, all, set_buttons] {
        const Shared<Level> level = session.document().levels[session.documents().level_index()].level;
        const Measures& agreed = session.project().measures;
        if (found->looked && found->level.is(level) && found->agreed == agreed) return;
        *found = {level, agreed, edit::departures(session.project(), *level), true};
        size_t elsewhere = 0;
        for (const auto& other : session.document().levels)
            if (!other.level.is(level)) elsewhere += edit::departures(session.project(), *other.level).size();
        QString text = found->all.empty() ? Tray::tr("This level follows the agreed measures.")
                                          : Tray::tr("Not as agreed: %1.").arg(found->all.size());
        if (elsewhere > 0) text += Tray::tr(" Other levels: %1.").arg(elsewhere);
        summary->setText(text);
        const QSignalBlocker block(list);
        list->clear();
        for (size_t i = 0; i < std::min(found->all.size(), k_most_rows); ++i)
            list->addItem(row_text(*level, found->all[i]));
        fit_to_rows(*list, 4);
        for (QWidget* widget : std::initializer_list<QWidget*>{list, one, all})
            widget->setVisible(!found->all.empty());
        set_buttons();
    });
    QObject::connect(list, &QListWidget::currentRowChanged, &page,
                     [&session, &tray, found, set_buttons](int row) {
                         set_buttons();
                         if (row < 0 || size_t(row) >= found->all.size()) return;
                         const edit::Departure& departure = found->all[size_t(row)];
                         const Item* item = find_item(session.level(), departure.item);
                         if (!item) return;
                         std::vector<ItemId> items{departure.item};
                         if (!departure.other.empty()) items.push_back(departure.other);
                         emit tray.findingChosen(box_of(*item).middle(), items);
                     });
}

} // namespace

void add_measures(Page& page, Tray& tray) {
    page.add_heading(Tray::tr("Agreed measures"));
    add_numbers(page);
    add_departures(page, tray);
}

} // namespace rubble::app
