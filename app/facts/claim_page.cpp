#include "edit/items.h"
#include "facts/pages.h"
#include "sentences.h"
#include "theme.h"

namespace rubble::app {

void fill_claim(Page& page, Facts& facts, const Claim& claim) {
    Session& session = page.session();
    page.add_heading(QString::fromStdString(claim.name.empty() ? claim.id.value : claim.name));
    const auto& result = session.built().check;
    if (!result) return;
    for (const auto& judged : result->claims) {
        if (judged.id != claim.id) continue;
        page.add_text(judged.state == check::ClaimState::holds   ? Facts::tr("Holds")
                      : judged.state == check::ClaimState::fails ? Facts::tr("Fails")
                                                                 : Facts::tr("Undecided"));
        if (!judged.reason.empty()) page.add_text(first_in_words(judged.reason, session.level()), "plain");
        if (const QString since = session.claim_history().since(claim.id); !since.isEmpty())
            page.add_text(Facts::tr("It held until: %1").arg(since), "plain");
        if (judged.witness) add_watch(page, facts, *judged.witness, QString::fromStdString(claim.name));
    }
    for (const auto& miss : result->near_misses)
        if ((miss.from == claim.from && miss.to == claim.to) ||
            (miss.from == claim.to && miss.to == claim.from))
            add_near_miss(page, miss);
    page.add_button(Facts::tr("Remove the claim"), [&session, id = claim.id] {
        session.apply(edit::without_claim(session.level(), id), Facts::tr("Remove claim"));
    });
}

void add_watch(Page& page, Facts& facts, const check::Witness& witness, const QString& title) {
    page.add_button(Facts::tr("Watch the run"),
                    [&facts, witness, title] { emit facts.watchWanted(witness, title); });
}

void add_near_miss(Page& page, const check::NearMiss& miss) {
    Session& session = page.session();
    QLabel* said = page.add_text(first_in_words(miss.says, session.level()), "plain");
    said->setStyleSheet(QStringLiteral("color: %1").arg(color::plum.name()));
    if (miss.mends.empty()) return;
    page.add_heading(Facts::tr("Mends, each tried"));
    for (const check::Mend& mend : miss.mends) {
        auto* row = new QHBoxLayout;
        auto* text_label = new QLabel(in_words(mend.says, session.level()));
        text_label->setWordWrap(true);
        auto* button = new QPushButton(Facts::tr("Try"));
        button->setAccessibleName(Facts::tr("Try: %1").arg(text_label->text()));
        button->setToolTip(Facts::tr("Make this change; undo takes it back"));
        row->addWidget(text_label, 1);
        row->addWidget(button);
        page.column().addLayout(row);
        QObject::connect(button, &QPushButton::clicked, &page, [&session, mend] {
            session.apply(check::mended(session.stored_level(), mend), Facts::tr("Mend"));
        });
    }
}

} // namespace rubble::app
