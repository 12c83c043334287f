#pragma once

#include <string>
#include <vector>

#include "level/element_values.h"

namespace rubble::motion {

/// The numbers, in a list, of the switches that an element names under a key; those that are not there are
/// left out.
template <class Switches>
std::vector<int> switch_numbers(const Switches& switches, const Element& element, const std::string& key) {
    std::vector<int> out;
    for (const std::string& id : texts_value(element, key))
        for (size_t i = 0; i < switches.size(); ++i)
            if (switches[i].id.value == id) out.push_back(int(i));
    return out;
}

} // namespace rubble::motion
