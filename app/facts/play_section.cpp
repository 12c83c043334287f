#include <QCheckBox>
#include <QComboBox>
#include <QInputDialog>

#include "edit/project.h"
#include "element_names.h"
#include "facts/pages.h"
#include "level/element_kinds.h"
#include "level/kinds_of_play.h"
#include "level/order.h"

namespace rubble::app {

namespace {

QString kind_name(const Session& session, const std::string& key) {
    for (const ElementName& name : element_names())
        if (key == name.kind) return name.label();
    const auto own = find_own_kind(session.project(), key);
    return QString::fromStdString(own ? own->name : key);
}

/// Of some kinds those that the level has, or has not.
QString named(const Session& session, const std::vector<std::string>& kinds, bool there) {
    QStringList out;
    for (const std::string& key : kinds) {
        const auto elements = elements_of(session.level());
        const auto count = std::count_if(elements.begin(), elements.end(),
                                         [&](const Item* item) { return item->element()->kind == key; });
        if ((count > 0) != there) continue;
        out << (there ? Facts::tr("%1 × %2").arg(count).arg(kind_name(session, key))
                      : kind_name(session, key));
    }
    return out.join(QStringLiteral(", "));
}

void change_level(Session& session, const QString& what, const std::function<void(Level&)>& edit) {
    Level level = session.stored_level();
    edit(level);
    session.apply(std::move(level), what);
}

/// What the level is about, what of it serves that, and what is unusual.
void add_about(Page& page) {
    Session& session = page.session();
    auto* about = new QComboBox;
    about->setAccessibleName(Facts::tr("What the level is about"));
    about->addItem(Facts::tr("About: not said"), QString());
    for (const KindOfPlay& kind : kinds_of_play(session.project()))
        about->addItem(Facts::tr("About: %1").arg(QString::fromStdString(kind.name)),
                       QString::fromStdString(kind.key));
    page.column().addWidget(about);
    QObject::connect(about, &QComboBox::activated, &page, [&session, about](int index) {
        change_level(session, Facts::tr("What the level is about"),
                     [&](Level& level) { level.about = about->itemData(index).toString().toStdString(); });
    });
    QLabel* text = page.add_text({}, "meaning");
    page.on_refresh([&session, about, text] {
        about->setCurrentIndex(std::max(0, about->findData(QString::fromStdString(session.level().about))));
        const auto kind = kind_of_play(session.project(), session.level());
        text->setVisible(kind.has_value());
        if (!kind) return;
        QStringList rows;
        const auto row = [&](const QString& what, const QString& names) {
            if (!names.isEmpty()) rows << what.arg(names);
        };
        row(Facts::tr("Serves it: %1"), named(session, kind->serves, true));
        row(Facts::tr("Would serve it: %1"), named(session, kind->serves, false));
        row(Facts::tr("Unusual for it: %1"), named(session, kind->unusual, true));
        text->setText(rows.join(QLatin1Char('\n')));
    });
}

QString also_name(const Session& session, const AlsoProven& also) {
    const NamedCharacter* who = find_character(session.project(), also.character);
    const QString name = who ? QString::fromStdString(who->name) : session.character_name();
    return also.rules.empty() ? name
                              : Facts::tr("%1, rules \"%2\"").arg(name, QString::fromStdString(also.rules));
}

/// With whom, and under which rules, claims are to hold too.
void add_also_proven(Page& page) {
    Session& session = page.session();
    if (session.project().characters.size() < 2 && session.project().rule_sets.empty() &&
        session.level().also_proven.empty())
        return;
    const std::vector<AlsoProven> now = session.level().also_proven;
    const QString what = Facts::tr("Claims hold with others too");
    for (const AlsoProven& also : now)
        page.add_button(
            Facts::tr("No longer proven with %1").arg(also_name(session, also)), [&session, also, what] {
                change_level(session, what, [&](Level& level) { std::erase(level.also_proven, also); });
            });
    auto* more = new QComboBox;
    more->setAccessibleName(what);
    more->addItem(Facts::tr("Claims are to hold with…"));
    std::vector<AlsoProven> offered;
    const auto offer = [&](AlsoProven also) {
        if (std::find(now.begin(), now.end(), also) != now.end()) return;
        more->addItem(also_name(session, also));
        offered.push_back(std::move(also));
    };
    for (const NamedCharacter& who : session.project().characters)
        if (who.id != session.level().character) offer({who.id, {}});
    for (const RuleSet& set : session.project().rule_sets) {
        offer({{}, set.name});
        for (const NamedCharacter& who : session.project().characters)
            if (who.id != session.level().character) offer({who.id, set.name});
    }
    more->setEnabled(!offered.empty());
    page.column().addWidget(more);
    QObject::connect(more, &QComboBox::activated, &page, [&session, offered, what](int index) {
        if (index <= 0) return;
        change_level(session, what,
                     [&](Level& level) { level.also_proven.push_back(offered[size_t(index - 1)]); });
    });
}

struct RuleRow {
    bool PuzzleRules::*member;
    QString (*text)();
};

/// The project's rules of play, and named sets of them.
void add_rules(Page& page) {
    Session& session = page.session();
    page.add_heading(Facts::tr("Rules of all levels"));
    const std::vector<RuleRow> rows{
        {&PuzzleRules::two_crates, [] { return Facts::tr("Two crates are pushed at once"); }},
        {&PuzzleRules::crates_slide, [] { return Facts::tr("Crates slide on slippery floor"); }},
        {&PuzzleRules::keys_are_kept, [] { return Facts::tr("Keys are kept"); }},
        {&PuzzleRules::nobody_pushes, [] { return Facts::tr("Nobody pushes crates"); }}};
    for (const RuleRow& row : rows) {
        auto* box = new QCheckBox(row.text());
        page.column().addWidget(box);
        page.on_refresh([&session, box, row] { box->setChecked(session.project().rules.*row.member); });
        QObject::connect(box, &QCheckBox::clicked, &page, [&session, row](bool on) {
            Project project = session.project();
            project.rules.*row.member = on;
            session.apply(std::move(project), row.text());
        });
    }
    page.add_button(Facts::tr("Keep these rules as…"), [&session, &page] {
        const QString name = QInputDialog::getText(&page, Facts::tr("Rules"), Facts::tr("Name")).trimmed();
        if (name.isEmpty()) return;
        Project project = session.project();
        std::erase_if(project.rule_sets, [&](const RuleSet& set) { return set.name == name.toStdString(); });
        project.rule_sets.push_back({name.toStdString(), project.rules});
        session.apply(std::move(project), Facts::tr("Keep rules"));
    });
}

} // namespace

void add_play(Page& page) {
    const Stage stage = page.session().stage();
    if (stage != Stage::populate && stage != Stage::check) return;
    page.add_heading(Facts::tr("Play"));
    add_about(page);
    add_also_proven(page);
    if (stage == Stage::populate) add_rules(page);
}

} // namespace rubble::app
