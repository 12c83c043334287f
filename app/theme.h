#pragma once

#include <QColor>
#include <QString>

class QApplication;

namespace rubble::app {

/// Light by day, dark by night, or with more contrast than either for eyes that need it.
enum class Scheme { light, dark, contrast };

/// What each role of colour looks like.
struct Colors {
    QColor paper, panel, line, ink, faint_ink, stone, accent, sea_green, blue_grey, ochre, plum, sky;
    QColor picked;      ///< behind what is chosen in a list
    QColor accent_deep; ///< of the main button under the pointer
    QColor checked;     ///< behind a button that is held down
    QColor faded;       ///< of what cannot be used now
};

/// Those in use: of the whole program, as its font and palette are. Changed by `apply_theme` alone.
const Colors& colors();

/// Roles of colour, as they look now.
namespace color {
inline const QColor &paper = colors().paper, &panel = colors().panel, &line = colors().line,
                    &ink = colors().ink, &faint_ink = colors().faint_ink, &stone = colors().stone,
                    &accent = colors().accent, &sea_green = colors().sea_green,
                    &blue_grey = colors().blue_grey, &ochre = colors().ochre, &plum = colors().plum,
                    &sky = colors().sky;
}

/// What the desktop has chosen, told by how bright its windows are.
Scheme scheme_of_desktop();

/// Sets font, palette and style sheet. Sizes follow the font.
/// Text as large as the desktop has it, and never smaller than can be read; `text_scale` makes it larger.
void apply_theme(QApplication& application, double text_scale = 1, Scheme scheme = Scheme::light);

} // namespace rubble::app
