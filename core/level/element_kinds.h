#pragma once

#include <memory>
#include <span>
#include <string>
#include <vector>

#include "level/element.h"

namespace rubble {

/// What an element is to the play. Rules, checks and views ask for this, never for the kinds that have it.
enum class Role {
    start,  ///< play begins here
    goal,   ///< play ends here
    thing,  ///< to be got to: not to be had is a defect
    device, ///< takes part in play, and need not be got to
    place,  ///< only named, to be spoken of
    note    ///< no part of play
};

/// How an element is drawn.
enum class Sign {
    pennant,
    ring,
    lozenge,
    sheet,
    key,
    door,
    bars,
    disc,
    crate,
    pearl,
    eye,
    boots,
    waves,
    spikes,
    rungs,
    arrow,
    platform,
    plank,
    board,
    clock,
    lamp
};

enum class FieldType { number, flag, choice, text, size, velocity, places, items, color };

/// What elements of a kind have among their `values`, with its type and, of numbers, unit and range.
struct ElementField {
    std::string key;
    FieldType type = FieldType::number;
    std::string unit = {};
    double least = 0, most = 0, usual = 0;
    std::vector<std::string> choices = {}; ///< the first one is usual
    Vec3 usual_size{0};
    std::string usual_text = {};
    bool operator==(const ElementField&) const = default;
};

/// Where elements of a kind act: everywhere, where one goes from cell to cell, or where one moves upright and
/// freely, in Space and Side.
enum class Acting { everywhere, by_cells, upright };

/// A kind of element; a new one is a row of `element_kinds`, a name in the program (app/element_names) and
/// how it acts (motion). Projects add rows of their own, which act as one of these or not at all.
struct ElementKind {
    std::string key; ///< in files
    Role role = Role::thing;
    Sign sign = Sign::lozenge;
    std::string id_prefix = "e";
    std::vector<ElementField> fields = {};
    Acting acting = Acting::everywhere;
    std::string name = {};    ///< what a project calls its own kind; empty: a kind that every project has
    std::string acts_as = {}; ///< of a project's own: the kind that it acts as; empty: it does nothing
    int at_least = 0, at_most = -1; ///< so many a project wants in each level; -1: as many as one likes
    bool operator==(const ElementKind&) const = default;

    /// The field of a key; null where the kind has none.
    const ElementField* field(const std::string& wanted) const;
    /// The field that is a way through the level; null where the kind has none.
    const ElementField* way() const;
};

/// All kinds that this version knows, in the order in which they are offered.
std::span<const ElementKind> element_kinds();
/// The kind of an element; one that is not known is a thing without a field.
const ElementKind& kind_of(const Element& element);
const ElementKind& kind_of(const std::string& key);
/// How signs are called in files, in the order of `Sign`.
std::span<const char* const> sign_keys();
/// The kind by whose laws an element acts: its own, or that which its own kind acts as.
const std::string& acts_as(const Element& element);
/// A new element of a kind.
Element element_of(const std::shared_ptr<const ElementKind>& kind, const Vec3& at, double facing_deg = 0);
/// The first kind that has a role; there is one for each but `thing`.
const ElementKind& kind_with(Role role);
/// What an element is for.
inline Role role_of(const Element& element) { return kind_of(element).role; }

/// How much room an element takes, around the middle of its bottom, before it is turned; zero where it is a
/// place alone.
Vec3 size_of(const Element& element);

/// A number of an element: the usual one where it has none in its range.
double number_of(const Element& element, const ElementField& field);
/// The same with another value in a field.
Element with_number(Element element, const ElementField& field, double value);

} // namespace rubble
