#pragma once

#include "io/json_text.h"
#include "level/element_kinds.h"
#include "level/level.h"

namespace rubble::io {

// What a project says of play: its own kinds of elements and limits to others, sets of rules, and the kinds
// of play that its levels are about.

/// The rules under a key; the usual ones where it is missing.
PuzzleRules read_puzzle_rules(Reader& in, const std::string& key);
/// Only those that are not as usual; null where all are.
Json puzzle_rules_json(const PuzzleRules& rules);

/// A kind of element that the project made, or a limit to one that every project has.
std::shared_ptr<const ElementKind> read_element_kind(Reader& in);
/// The same in a file.
Json element_kind_json(const ElementKind& kind);

/// A named set of rules.
RuleSet read_rule_set(Reader& in);
/// The same in a file.
Json rule_set_json(const RuleSet& set);

/// How well somebody plays.
Skill read_skill(Reader& in);
/// The same in a file.
Json skill_json(const Skill& skill);

/// A kind of play.
KindOfPlay read_kind_of_play(Reader& in);
/// The same in a file.
Json kind_of_play_json(const KindOfPlay& kind);

} // namespace rubble::io
