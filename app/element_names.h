#pragma once

#include <span>

#include <QString>

namespace rubble::app {

/// A kind of element (level/element_kinds) as it is called on the screen, and the tool that places it.
struct ElementName {
    const char* kind;
    const char* tool;     ///< its id
    QString (*label)();   ///< "Start"
    QString (*command)(); ///< "Place: start"
};

/// One for each kind that is known, in the order in which they are offered.
std::span<const ElementName> element_names();
/// What one of the values of elements is called, by its key in files.
QString element_field_name(const char* key);
/// What one of the choices of a value is called, by its word in files.
QString element_choice_name(const char* choice);

} // namespace rubble::app
