#include <algorithm>
#include <memory>

#include "edit/names.h"
#include "numbers.h"
#include "tray/pages.h"

namespace rubble::app {

namespace {

QString in_words(const edit::Misnamed& one) {
    const QString now =
        one.name.empty() ? QString::fromStdString(one.item.value) : QString::fromStdString(one.name);
    const auto why = [&]() -> QString {
        using Why = edit::Misnamed::Why;
        switch (one.why) {
        case Why::none:
            return Tray::tr("has no name");
        case Why::characters:
            return Tray::tr("characters that are not allowed");
        case Why::length:
            return Tray::tr("too long");
        case Why::pattern:
            return Tray::tr("not as the pattern");
        case Why::twice:
            return Tray::tr("another is called so");
        }
        return {};
    };
    return QStringLiteral("%1: %2").arg(now, why());
}

void change_scheme(Session& session, const std::function<void(NameScheme&)>& how) {
    Project project = session.project();
    how(project.names);
    if (const std::string problem = edit::problem_of(project.names); !problem.empty())
        session.documents().show_message(QString::fromStdString(problem));
    session.apply(std::move(project), Tray::tr("Scheme of names"));
}

} // namespace

/// How items are to be called for those who go on with them, and which are not.
void add_names(Page& page, Tray& tray) {
    constexpr int k_most_shown = 50;
    Session& session = page.session();
    page.add_heading(Tray::tr("Names"));
    page.add_line(
        Tray::tr("Pattern"), [&session] { return QString::fromStdString(session.project().names.pattern); },
        [&session](const QString& text) {
            change_scheme(session, [&](NameScheme& names) { names.pattern = text.trimmed().toStdString(); });
        });
    page.add_line(
        Tray::tr("Characters"),
        [&session] { return QString::fromStdString(session.project().names.allowed); },
        [&session](const QString& text) {
            change_scheme(session, [&](NameScheme& names) { names.allowed = text.trimmed().toStdString(); });
        });
    page.add_number({Tray::tr("Longest"),
                     {},
                     1,
                     [&session] { return double(session.project().names.longest); },
                     [&session](double value) {
                         change_scheme(session, [&](NameScheme& names) {
                             names.longest = int(std::clamp(value, 1.0, 1000.0));
                         });
                     }});
    QLabel* says = page.add_text({});
    QListWidget* list = page.add_short_list(Tray::tr("Items that are called otherwise"));
    QPushButton* right = page.add_button(Tray::tr("Put all names right"), [&session] {
        session.apply(edit::with_names_by(session.project().names, session.stored_level()),
                      Tray::tr("Names by the scheme"));
    });
    const auto wrong = std::make_shared<std::vector<edit::Misnamed>>();
    page.on_refresh([&session, says, list, right, wrong] {
        *wrong = edit::misnamed(session.project().names, session.stored_level());
        const bool none = session.project().names.pattern.empty();
        says->setText(none ? Tray::tr("Such as {layer}_{kind}_{number}; without a pattern any name will do")
                      : wrong->empty() ? Tray::tr("All items are called so")
                                       : counted(int(wrong->size()), Tray::tr("item is called otherwise"),
                                                 Tray::tr("items are called otherwise")));
        list->clear();
        for (size_t i = 0; i < std::min<size_t>(wrong->size(), k_most_shown); ++i)
            list->addItem(in_words((*wrong)[i]));
        list->setVisible(!wrong->empty()), right->setVisible(!wrong->empty());
        fit_to_rows(*list, 5);
    });
    QObject::connect(list, &QListWidget::itemClicked, &tray, [&session, list, wrong] {
        if (const size_t row = size_t(list->currentRow()); row < wrong->size())
            session.select({(*wrong)[row].item});
    });
}

} // namespace rubble::app
