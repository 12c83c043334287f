#include <QHBoxLayout>
#include <QPushButton>

#include "element_names.h"
#include "facts/pages.h"
#include "sentences.h"
#include "suggest/suggest.h"

namespace rubble::app {

namespace {

QString kind_title(const std::string& kind) {
    for (const ElementName& name : element_names())
        if (name.kind == kind) return name.label();
    return kind == "step" ? Facts::tr("Step") : QString::fromStdString(kind);
}

/// The layer that something is put into: where elements are, else the chosen one.
int layer_for(const Session& session) {
    const Level& level = session.stored_level();
    for (size_t i = 0; i < level.layers.size(); ++i)
        for (const auto& item : level.layers[i]->items)
            if (item->element()) return int(i);
    return session.layer();
}

struct Choice {
    QString text, name; ///< what it says, and what it is called where nobody sees it
    std::function<void()> run;
};

void add_choices(Page& page, const std::vector<Choice>& choices) {
    auto* row = new QHBoxLayout;
    for (const Choice& choice : choices) {
        auto* button = new QPushButton(choice.text);
        button->setAccessibleName(choice.name);
        QObject::connect(button, &QPushButton::clicked, &page, choice.run);
        row->addWidget(button);
    }
    page.column().addLayout(row);
}

void drop(Session& session, size_t index) {
    Suggestions left = session.suggestions();
    if (index < left.open.size()) left.open.erase(left.open.begin() + std::ptrdiff_t(index));
    session.set_suggestions(std::move(left));
}

void keep(Session& session, size_t index) {
    const Suggestions& now = session.suggestions();
    if (index >= now.open.size()) return;
    const suggest::Suggestion one = now.open[index];
    drop(session, index);
    session.apply(suggest::with_kept(session.project(), one.kind), Facts::tr("Learn from a suggestion"));
    session.apply(suggest::with(session.stored_level(), layer_for(session), one),
                  Facts::tr("Keep a suggestion"));
}

void throw_away(Session& session, size_t index) {
    Suggestions now = session.suggestions();
    if (index >= now.open.size()) return;
    const suggest::Suggestion one = now.open[index];
    now.thrown.insert(suggest::name_of(session.level(), one));
    session.set_suggestions(std::move(now));
    drop(session, index);
    session.apply(suggest::with_thrown(session.project(), one.kind), Facts::tr("Learn from a suggestion"));
}

} // namespace

void add_suggestions(Page& page) {
    Session& session = page.session();
    const Suggestions& now = session.suggestions();
    if (now.open.empty() && !now.looking) return;
    page.add_heading(Facts::tr("Suggestions"));
    if (now.looking) {
        page.add_text(Facts::tr("Each is tried before it is shown…"));
        return;
    }
    for (size_t i = 0; i < now.open.size(); ++i) {
        const suggest::Suggestion& one = now.open[i];
        const QString title = Facts::tr("%1. %2").arg(i + 1).arg(kind_title(one.kind));
        page.add_text(title + QStringLiteral(": ") + in_words(one.reason, session.level()), "plain");
        add_choices(
            page, {{Facts::tr("Keep"), Facts::tr("Keep %1").arg(title), [&session, i] { keep(session, i); }},
                   {Facts::tr("Throw away"), Facts::tr("Throw %1 away").arg(title),
                    [&session, i] { throw_away(session, i); }}});
    }
    add_choices(page, {{Facts::tr("Keep all"), Facts::tr("Keep all suggestions"),
                        [&session] {
                            while (!session.suggestions().open.empty()) keep(session, 0);
                        }},
                       {Facts::tr("None"), Facts::tr("Throw all suggestions away"), [&session] {
                            while (!session.suggestions().open.empty()) throw_away(session, 0);
                        }}});
    if (!session.project().habits.empty())
        page.add_button(Facts::tr("Forget what was learned"), [&session] {
            session.apply(suggest::with_nothing_learned(session.project()),
                          Facts::tr("Forget what was learned"));
        });
}

} // namespace rubble::app
