#include <QComboBox>
#include <QLineEdit>
#include <QTimer>

#include "numbers.h"
#include "tray/pages.h"

namespace rubble::app {

namespace {

void add_characters(Page& page) {
    Session& session = page.session();
    page.add_heading(Tray::tr("Character"));
    QListWidget* list = page.add_list(Tray::tr("Characters"), 0);
    page.on_refresh([&session, list] {
        const QSignalBlocker block(list);
        list->clear();
        for (const auto& named : session.project().characters) {
            list->addItem(QString::fromStdString(named.name));
            if (named.id == session.level().character) list->setCurrentRow(list->count() - 1);
        }
        fit_to_rows(*list, 8);
    });
    QObject::connect(list, &QListWidget::currentRowChanged, &page, [&session](int row) {
        if (row < 0 || size_t(row) >= session.project().characters.size()) return;
        const CharacterId id = session.project().characters[size_t(row)].id;
        // Later: the list is made anew by the change and must not be under way in its own signal.
        QTimer::singleShot(0, &session, [&session, id] {
            Level level = session.level();
            level.character = id;
            session.apply(std::move(level), Tray::tr("Character"));
        });
    });
}

void add_grid_steps(Page& page) {
    Session& session = page.session();
    auto* steps = new QComboBox;
    steps->setAccessibleName(Tray::tr("Grid step"));
    steps->setEditable(true);
    for (double step : {0.0625, 0.125, 0.25, 0.5, 1.0, 2.0, 4.0, 8.0})
        steps->addItem(plain_number(step) + QStringLiteral(" m"));
    page.column().addWidget(steps);
    page.on_refresh(
        [&session, steps] { steps->setEditText(plain_number(session.grid_m()) + QStringLiteral(" m")); });
    auto take = [&session, steps] {
        const auto value = parse_metres(steps->currentText());
        if (!value || *value < 1e-4 || *value > 1000 || *value == session.grid_m()) return;
        Project project = session.project();
        project.grid_m = *value;
        session.apply(std::move(project), Tray::tr("Grid"));
    };
    QObject::connect(steps, &QComboBox::activated, &page, take);
    QObject::connect(steps->lineEdit(), &QLineEdit::editingFinished, &page, take);
}

} // namespace

void fill_metrics(Page& page, Tray& tray) {
    Session& session = page.session();
    add_characters(page);
    page.add_heading(Tray::tr("Grid"));
    add_grid_steps(page);
    auto number = [&](const QString& name, const QString& unit, double step, double Project::*member,
                      double least) {
        page.add_number({name, unit, step, [&session, member] { return session.project().*member; },
                         [&session, member, least](double to) {
                             if (to < least) return;
                             Project project = session.project();
                             project.*member = to;
                             session.apply(std::move(project), Tray::tr("Metrics"));
                         }});
    };
    number(Tray::tr("Module"), Tray::tr("m"), 0.5, &Project::module_m, 1e-3);
    number(Tray::tr("Turn step"), QStringLiteral("°"), 5, &Project::turn_step_deg, 0.1);
    add_measures(page, tray);
    page.add_heading(Tray::tr("Grades of jumps"));
    number(Tray::tr("Easy from"), QStringLiteral("%"), 5, &Project::easy_pct, 0);
    number(Tray::tr("Fair from"), QStringLiteral("%"), 5, &Project::fair_pct, 0);
    page.add_text(Tray::tr("What is left of the longest jump: below fair a jump is tight."));
}

} // namespace rubble::app
