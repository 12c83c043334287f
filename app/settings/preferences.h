#pragma once

#include <Qt>

#include "numbers.h"
#include "theme.h"

namespace rubble::app {

/// Which colours are wanted; `desktop` follows what the desktop has chosen.
enum class ColorChoice { desktop, light, dark, contrast };

/// What the buttons and the wheel of a mouse do in the views.
struct MouseUse {
    Qt::MouseButton work = Qt::LeftButton; ///< draws, selects, drags
    Qt::MouseButton look = Qt::RightButton, move = Qt::MiddleButton;
    bool wheel_moves = false;  ///< as two fingers on a touchpad do; with Ctrl it zooms
    bool wheel_turned = false; ///< zooms in when turned towards oneself
    bool operator==(const MouseUse&) const = default;
};

/// What the user has settled for all levels and all sessions.
struct Preferences {
    ColorChoice colors = ColorChoice::desktop;
    double text_scale = 1;
    LengthUnit lengths = LengthUnit::metres;
    MouseUse mouse;
    int copy_after_s = 3; ///< unsaved work is copied aside when so much time has passed since a change
    bool operator==(const Preferences&) const = default;
};

/// Those kept in the user's settings; what is not there, or makes no sense, as it is at first.
Preferences kept_preferences();
void keep_preferences(const Preferences& preferences);

Scheme scheme_of(ColorChoice choice);

} // namespace rubble::app
