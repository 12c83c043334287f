#pragma once

#include <optional>

#include <QObject>

#include "finding_list.h"
#include "session/session.h"

namespace rubble::app {

/// Going through what a check found, and what is done with the finding one is at.
class FindingWalk : public QObject {
    Q_OBJECT
public:
    /// `window` is asked through.
    FindingWalk(Session& session, QWidget& window);

    /// To the next finding, or the one before; after the last comes the first.
    void go(int by);
    /// To the finding at an index, in walking order.
    void go_to(int index);
    /// Asks why the finding may stay, and lets it.
    void excuse();
    /// No level of the project is told any more of what the finding's rule looks for.
    void leave_rule_out();
    void look_for_all_again();
    /// The one that was gone to last.
    const std::optional<check::Finding>& last() const { return last_; }

signals:
    void arrived(const rubble::check::Finding& finding);
    void says(const QString& text);

private:
    std::vector<check::Finding> findings() const;
    /// The one that was gone to last, where it is still found; says so where there is none.
    const check::Finding* at_hand();

    Session& session_;
    QWidget& window_;
    int index_ = -1;
    std::optional<check::Finding> last_;
};

} // namespace rubble::app
