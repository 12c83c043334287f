#include "element_names.h"

#include <array>

#include "text.h"

namespace rubble::app {

std::span<const ElementName> element_names() {
    static constexpr std::array k_names{
        ElementName{"start", "place start", [] { return tr("Start"); }, [] { return tr("Place: start"); }},
        ElementName{"goal", "place goal", [] { return tr("Goal"); }, [] { return tr("Place: goal"); }},
        ElementName{"place", "place place", [] { return tr("Place"); },
                    [] { return tr("Place: named place"); }},
        ElementName{"note", "place note", [] { return tr("Note"); }, [] { return tr("Place: note"); }},
    };
    return k_names;
}

QString element_field_name(const char* key) {
    QString words = QString::fromUtf8(key).replace('_', ' ');
    words[0] = words[0].toUpper();
    return words;
}

} // namespace rubble::app
