#include "finding_walk.h"

#include <algorithm>

#include <QInputDialog>

#include "check/excuses.h"
#include "sentences.h"

namespace rubble::app {

FindingWalk::FindingWalk(Session& session, QWidget& window)
    : QObject(&window),
      session_(session),
      window_(window) {
    connect(&session, &Session::documentOpened, this, [this] { index_ = -1, last_.reset(); });
}

std::vector<check::Finding> FindingWalk::findings() const {
    const auto& result = session_.built().check;
    return result ? in_walking_order(*result, session_.level()) : std::vector<check::Finding>{};
}

void FindingWalk::go(int by) {
    const int count = int(findings().size());
    if (count == 0) return emit says(tr("Nothing was found"));
    go_to(index_ < 0 ? (by > 0 ? 0 : count - 1) : (std::min(index_, count - 1) + by + count) % count);
}

void FindingWalk::go_to(int index) {
    const auto all = findings();
    if (index < 0 || size_t(index) >= all.size()) return;
    index_ = index;
    last_ = all[size_t(index)];
    emit arrived(*last_);
    emit says(tr("%1 of %2: %3").arg(index + 1).arg(all.size()).arg(in_words(last_->says, session_.level())));
}

const check::Finding* FindingWalk::at_hand() {
    const auto all = findings();
    const auto same = [&](const check::Finding& one) {
        return last_ && one.rule == last_->rule && one.at == last_->at && one.items == last_->items;
    };
    if (std::any_of(all.begin(), all.end(), same)) return &*last_;
    emit says(tr("Go to a finding first: by a click in the list, or from one to the next"));
    return nullptr;
}

void FindingWalk::excuse() {
    const check::Finding* one = at_hand();
    if (!one) return;
    const Excuse excuse = check::excuse_of(*one, {});
    bool agreed = false;
    const QString reason = QInputDialog::getText(&window_, tr("Excuse this finding"), tr("Why it may stay"),
                                                 QLineEdit::Normal, {}, &agreed)
                               .trimmed();
    if (!agreed) return;
    if (reason.isEmpty()) return emit says(tr("An excuse needs a reason"));
    Level level = session_.stored_level();
    level.excuses.push_back(excuse);
    level.excuses.back().reason = reason.toStdString();
    session_.apply(std::move(level), tr("Excuse a finding"));
}

void FindingWalk::leave_rule_out() {
    const check::Finding* one = at_hand();
    if (!one) return;
    Project project = session_.project();
    project.rules_off.push_back(check::rule_of(one->rule).key);
    session_.apply(std::move(project), tr("Leave a rule out"));
}

void FindingWalk::look_for_all_again() {
    Project project = session_.project();
    if (project.rules_off.empty()) return emit says(tr("No kind of finding is left out"));
    project.rules_off.clear();
    session_.apply(std::move(project), tr("Look for all kinds of findings again"));
}

} // namespace rubble::app
