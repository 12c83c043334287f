#pragma once

#include <array>
#include <string>

#include "base/id.h"
#include "level/extra.h"

namespace rubble {

/// An expectation stored with the level and checked after every change.
struct Claim {
    enum class Kind {
        reaches,
        not_reaches,
        returns,
        within,
        stays,
        share,
        needs,
        order,
        all_pickups,
        never_stuck,
        at_most
    };
    ClaimId id;
    std::string name;
    Kind kind = Kind::reaches;
    ItemId from;
    ItemId to;
    ItemId item;         ///< what `needs` and `order` name besides
    std::string element; ///< the kind that `at_most` counts
    int count = 0;       ///< of `at_most`
    Extra extra;
    double value = 0;       ///< seconds of `within`, margin of `stays` and share of `share` (percent)
    std::string skill = {}; ///< of `share`
    bool operator==(const Claim&) const = default;
};

/// A kind of claim. A new one is a row here, how it is judged (check/claims) and its name in the program
/// (app/claim_names); both are switches that the compiler watches.
struct ClaimKind {
    Claim::Kind kind;
    const char* key;       ///< in files
    bool wants_a_way;      ///< that there is one is what is claimed, so that a near miss says what is missing
    int ends;              ///< places that it names: 3 with an item between, 2, 1 where play begins, or none
    bool of_places = true; ///< nothing but the terrain and where its ends are decides it
    bool of_items = false; ///< its ends are what one stands on, not elements
};

/// In the order in which they are offered.
inline constexpr std::array claim_kinds{ClaimKind{Claim::Kind::reaches, "reaches", true, 2},
                                        ClaimKind{Claim::Kind::not_reaches, "not_reaches", false, 2},
                                        ClaimKind{Claim::Kind::returns, "returns", true, 2},
                                        ClaimKind{Claim::Kind::within, "within", true, 2},
                                        ClaimKind{Claim::Kind::stays, "stays", false, 2, false, true},
                                        ClaimKind{Claim::Kind::share, "share", false, 2, false},
                                        ClaimKind{Claim::Kind::needs, "needs", false, 3, false},
                                        ClaimKind{Claim::Kind::order, "order", false, 3, false},
                                        ClaimKind{Claim::Kind::all_pickups, "all_pickups", false, 1, false},
                                        ClaimKind{Claim::Kind::never_stuck, "never_stuck", false, 1, false},
                                        ClaimKind{Claim::Kind::at_most, "at_most", false, 0, false}};

/// The row of a claim's kind.
constexpr const ClaimKind& kind_of(const Claim& claim) { return claim_kinds[size_t(claim.kind)]; }

} // namespace rubble
