#pragma once

#include <array>
#include <string>

#include "base/id.h"
#include "level/extra.h"

namespace rubble {

/// An expectation stored with the level and checked after every change.
struct Claim {
    enum class Kind { reaches, not_reaches, returns };
    ClaimId id;
    std::string name;
    Kind kind = Kind::reaches;
    ItemId from;
    ItemId to;
    Extra extra;
    bool operator==(const Claim&) const = default;
};

/// A kind of claim. A new one is a row here, how it is judged (check/claims) and its name in the program
/// (app/claim_names); both are switches that the compiler watches.
struct ClaimKind {
    Claim::Kind kind;
    const char* key;  ///< in files
    bool wants_a_way; ///< that there is one is what is claimed, so that a near miss says what is missing
};

/// In the order in which they are offered.
inline constexpr std::array claim_kinds{ClaimKind{Claim::Kind::reaches, "reaches", true},
                                        ClaimKind{Claim::Kind::not_reaches, "not_reaches", false},
                                        ClaimKind{Claim::Kind::returns, "returns", true}};

/// The row of a claim's kind.
constexpr const ClaimKind& kind_of(const Claim& claim) { return claim_kinds[size_t(claim.kind)]; }

} // namespace rubble
