#include "claim_names.h"

#include "text.h"

namespace rubble::app {

QString claim_text(Claim::Kind kind, const QString& from, const QString& to) {
    switch (kind) {
    case Claim::Kind::reaches:
        return tr("%1 reaches %2").arg(from, to);
    case Claim::Kind::not_reaches:
        return tr("%1 does not reach %2").arg(from, to);
    case Claim::Kind::returns:
        return tr("From %1 to %2 and back").arg(from, to);
    }
    return {};
}

} // namespace rubble::app
