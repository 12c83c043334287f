#pragma once

#include <string>
#include <vector>

#include "level/element.h"

namespace rubble {

// The values of an element by their keys in files. One that is missing, or of another type, counts as what
// is usual.

/// A number.
double number_value(const Element& element, const std::string& key, double usual);
/// A number that elements of that kind have a field for; what is usual for them where it is out of its range.
double number_of(const Element& element, const std::string& key);
/// Yes or no.
bool flag_value(const Element& element, const std::string& key, bool usual);
/// A text.
std::string text_value(const Element& element, const std::string& key, const std::string& usual = {});
/// A text, or what is usual for elements of that kind.
std::string text_of(const Element& element, const std::string& key);
/// Three numbers.
Vec3 point_value(const Element& element, const std::string& key, const Vec3& usual);
/// A list of places.
std::vector<Vec3> points_value(const Element& element, const std::string& key);
/// A list of texts, such as the ids of other items; a text alone is a list of one.
std::vector<std::string> texts_value(const Element& element, const std::string& key);

/// The element with another value. @{
Element with_value(Element element, const std::string& key, double value);
Element with_value(Element element, const std::string& key, bool value);
Element with_value(Element element, const std::string& key, const std::string& value);
Element with_value(Element element, const std::string& key, const Vec3& value);
Element with_value(Element element, const std::string& key, const std::vector<Vec3>& value);
Element with_value(Element element, const std::string& key, const std::vector<std::string>& value);
/// @}

} // namespace rubble
