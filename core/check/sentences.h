#pragma once

#include <string>
#include <variant>
#include <vector>

#include "level/level.h"

namespace rubble::check {

// What a check has to say stays numbers and names; who shows it makes sentences of them, in the user's
// language.

struct Metres {
    double value;
    bool operator==(const Metres&) const = default;
};
struct Millimetres {
    double value;
    bool operator==(const Millimetres&) const = default;
};
struct Degrees {
    double value;
    bool operator==(const Degrees&) const = default;
};
/// A word that is translated as the sentence is.
struct Term {
    const char* text;
    bool operator==(const Term& other) const { return std::string_view(text) == other.text; }
};
/// What stands at a place of a sentence: a measure, an item by its title, a claim, a term or a name.
using Word = std::variant<std::string, Metres, Millimetres, Degrees, Term, ItemId, ClaimId>;

/// An English sentence with places %1, %2 … for words.
struct Sentence {
    const char* text;
    std::vector<Word> words = {};
};
using Sentences = std::vector<Sentence>;

/// A word as it stands in English; an item that the level does not have by its id.
std::string in_english(const Word& word, const Level& level);
/// Sentences one after the other in English, items called as the level calls them.
std::string in_english(const Sentences& sentences, const Level& level);

/// Puts words into the places of a text, which may stand in any order.
std::string with_words(const std::string& text, const std::vector<std::string>& words);

} // namespace rubble::check
