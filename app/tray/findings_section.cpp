#include <QComboBox>
#include <QHBoxLayout>
#include <QPointer>

#include "check/excuses.h"
#include "finding_list.h"
#include "sentences.h"
#include "tray/pages.h"
#include "tray/signs.h"

namespace rubble::app {

namespace {

/// So many findings that go together are listed before the rest is only counted.
constexpr size_t k_alike = 3;

QListWidgetItem* finding_row(const check::Finding& finding, const Level& level) {
    return new QListWidgetItem(QIcon(sign_of(finding.severity)), in_words(finding.says, level));
}

/// How grave those are that are shown, and what goes together.
void add_view_choices(Page& page, Tray& tray) {
    auto* row = new QHBoxLayout;
    const FindingView view = FindingView::kept();
    auto* least = new QComboBox;
    least->setAccessibleName(Tray::tr("How grave"));
    least->addItems({Tray::tr("Blockers"), Tray::tr("+ concerns"), Tray::tr("+ remarks")});
    least->setCurrentIndex(int(view.least));
    auto* by = new QComboBox;
    by->setAccessibleName(Tray::tr("What goes together"));
    by->addItems({Tray::tr("by rule"), Tray::tr("by place")});
    by->setCurrentIndex(view.by_place);
    const auto changed = [least = QPointer(least), by = QPointer(by), &tray] {
        if (!least || !by) return;
        FindingView{check::Severity(least->currentIndex()), by->currentIndex() == 1}.keep();
        tray.fill_again();
    };
    // Later: the page that holds these is made anew.
    QObject::connect(least, &QComboBox::activated, &tray, changed, Qt::QueuedConnection);
    QObject::connect(by, &QComboBox::activated, &tray, changed, Qt::QueuedConnection);
    for (QComboBox* box : {least, by}) { // the tray is narrow
        box->setMinimumContentsLength(4);
        box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
        row->addWidget(box, 1);
    }
    page.column().addLayout(row);
}

/// What the level lets stand, with why; an excuse is taken back by a press.
void add_excused(Page& page, Tray& tray, const std::vector<check::Excused>& excused) {
    Session& session = page.session();
    if (!session.project().rules_off.empty())
        page.add_button(Tray::tr("Look for all again: %n kind(s) left out", nullptr,
                                 int(session.project().rules_off.size())),
                        [&tray] { emit tray.commandWanted(QStringLiteral("rules-on")); });
    if (excused.empty()) return;
    page.add_heading(Tray::tr("Excused"));
    QListWidget* list = page.add_short_list(Tray::tr("Excused"));
    for (const check::Excused& one : excused) {
        auto* row = finding_row(one.finding, session.level());
        row->setText(row->text() + QStringLiteral("\n“%1”").arg(QString::fromStdString(one.reason)));
        list->addItem(row);
    }
    QObject::connect(list, &QListWidget::currentRowChanged, &page, [&tray, excused](int row) {
        if (row >= 0 && size_t(row) < excused.size())
            emit tray.findingChosen(excused[size_t(row)].finding.at, excused[size_t(row)].finding.items);
    });
    page.add_button(Tray::tr("Take this excuse back"), [&session, list, excused] {
        const int row = list->currentRow();
        if (row < 0 || size_t(row) >= excused.size()) return;
        Level level = session.stored_level();
        const Excuse* taken = check::excuse_for(level, excused[size_t(row)].finding);
        if (!taken) return;
        level.excuses.erase(level.excuses.begin() + (taken - level.excuses.data()));
        session.apply(std::move(level), Tray::tr("Take an excuse back"));
    });
}

} // namespace

void add_findings(Page& page, Tray& tray) {
    Session& session = page.session();
    const auto result = session.built().check;
    page.add_heading(Tray::tr("Findings"));
    add_view_choices(page, tray);
    QListWidget* findings = page.add_short_list(Tray::tr("Findings"));
    if (!result) return;
    const auto groups = grouped_findings(*result, session.level(), FindingView::kept());
    // Of what there is very much of, some stand for all.
    std::vector<int> shown; // in walking order
    int before = 0;
    for (const FindingGroup& group : groups) {
        const size_t count = group.findings.size();
        if (count > 1) {
            auto* title = new QListWidgetItem(QStringLiteral("%1  ·  %2").arg(group.title).arg(count));
            QFont font = findings->font();
            font.setBold(true);
            title->setFont(font);
            findings->addItem(title);
            shown.push_back(before);
        }
        const bool many = count > k_alike + 1;
        for (size_t k = 0; k < (many ? k_alike : count); ++k) {
            findings->addItem(finding_row(group.findings[k], session.level()));
            shown.push_back(before + int(k));
        }
        if (many) {
            findings->addItem(Tray::tr("%1 more like it: Alt+Down goes on to them").arg(count - k_alike));
            shown.push_back(before + int(k_alike));
        }
        before += int(count);
    }
    if (groups.empty()) page.add_text(Tray::tr("Nothing found."));
    QObject::connect(findings, &QListWidget::currentRowChanged, &page, [&tray, shown](int row) {
        if (row >= 0 && size_t(row) < shown.size()) emit tray.findingWanted(shown[size_t(row)]);
    });
    if (!groups.empty()) {
        page.add_button(Tray::tr("Excuse this finding …"),
                        [&tray] { emit tray.commandWanted(QStringLiteral("finding-excuse")); });
        page.add_button(Tray::tr("Never look for this"),
                        [&tray] { emit tray.commandWanted(QStringLiteral("rule-off")); });
    }
    add_excused(page, tray, result->excused);
}

} // namespace rubble::app
