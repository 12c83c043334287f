#include "claim_names.h"

#include "text.h"

namespace rubble::app {

QString claim_text(Claim::Kind kind, const QString& from, const QString& to, const QString& item) {
    switch (kind) {
    case Claim::Kind::reaches:
        return tr("%1 reaches %2").arg(from, to);
    case Claim::Kind::not_reaches:
        return tr("%1 does not reach %2").arg(from, to);
    case Claim::Kind::returns:
        return tr("From %1 to %2 and back").arg(from, to);
    case Claim::Kind::within:
        return tr("From %1 to %2 in no more than %3 s").arg(from, to, item);
    case Claim::Kind::stays:
        return tr("From %1 to %2 it stays as easy").arg(from, to);
    case Claim::Kind::share:
        return tr("From %1 to %2 nine of ten newcomers get").arg(from, to);
    case Claim::Kind::needs:
        return tr("%1 reaches %2 only with %3").arg(from, to, item);
    case Claim::Kind::order:
        return tr("From %1 first %3, then %2").arg(from, to, item);
    case Claim::Kind::all_pickups:
        return tr("From %1 all pick-ups are had").arg(from);
    case Claim::Kind::never_stuck:
        return tr("From %1 nobody gets stuck").arg(from);
    case Claim::Kind::at_most:
        return tr("No more of %1 than there are").arg(from);
    }
    return {};
}

} // namespace rubble::app
