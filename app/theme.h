#pragma once

#include <QColor>
#include <QString>

class QApplication;

namespace rubble::app {

/// Roles of colour; a dark theme would give the same roles other values.
namespace color {
inline const QColor paper{0xF3, 0xEF, 0xE7}, panel{0xE9, 0xE3, 0xD8}, line{0xCF, 0xC6, 0xB6},
    ink{0x2A, 0x27, 0x23}, faint_ink{0x6B, 0x64, 0x59}, stone{0xBD, 0xB6, 0xA9}, accent{0xB5, 0x53, 0x2D},
    sea_green{0x1F, 0x8A, 0x7D}, blue_grey{0x5B, 0x7C, 0x99}, ochre{0xC9, 0x8A, 0x1B}, plum{0x8A, 0x3A, 0x66},
    sky{0xE4, 0xEC, 0xEE};
}

/// Sets font, palette and style sheet. Sizes follow the font.
/// Text as large as the desktop has it, and never smaller than can be read; `text_scale` makes it larger.
void apply_theme(QApplication& application, double text_scale = 1);

} // namespace rubble::app
