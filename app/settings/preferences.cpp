#include "settings/preferences.h"

#include <algorithm>

#include <QSettings>

namespace rubble::app {

namespace {

/// Text is at most so many times as large as the desktop has it.
constexpr double k_largest_text = 3;
constexpr int k_longest_wait_s = 5; ///< more work than that is never at stake

template <class Choice>
Choice choice_in(const QSettings& settings, const char* name, Choice usual, int count) {
    const int value = settings.value(QLatin1String(name), int(usual)).toInt();
    return value >= 0 && value < count ? Choice(value) : usual;
}

} // namespace

Preferences kept_preferences() {
    const QSettings settings;
    Preferences out;
    out.colors = choice_in(settings, "look/colors", out.colors, 4);
    const double scale = settings.value(QStringLiteral("look/text"), out.text_scale).toDouble();
    out.text_scale = scale >= 1 && scale <= k_largest_text ? scale : 1;
    out.lengths = choice_in(settings, "look/lengths", out.lengths, 3);
    if (settings.value(QStringLiteral("mouse/left_hand")).toBool()) std::swap(out.mouse.work, out.mouse.look);
    if (settings.value(QStringLiteral("mouse/middle_looks")).toBool())
        std::swap(out.mouse.look, out.mouse.move);
    out.mouse.wheel_moves = settings.value(QStringLiteral("mouse/wheel_moves")).toBool();
    out.mouse.wheel_turned = settings.value(QStringLiteral("mouse/wheel_turned")).toBool();
    out.copy_after_s = std::clamp(
        settings.value(QStringLiteral("files/copy_after_s"), out.copy_after_s).toInt(), 1, k_longest_wait_s);
    return out;
}

void keep_preferences(const Preferences& p) {
    QSettings settings;
    settings.setValue(QStringLiteral("look/colors"), int(p.colors));
    settings.setValue(QStringLiteral("look/text"), p.text_scale);
    settings.setValue(QStringLiteral("look/lengths"), int(p.lengths));
    settings.setValue(QStringLiteral("mouse/left_hand"), p.mouse.work != Qt::LeftButton);
    settings.setValue(QStringLiteral("mouse/middle_looks"), p.mouse.look == Qt::MiddleButton);
    settings.setValue(QStringLiteral("mouse/wheel_moves"), p.mouse.wheel_moves);
    settings.setValue(QStringLiteral("mouse/wheel_turned"), p.mouse.wheel_turned);
    settings.setValue(QStringLiteral("files/copy_after_s"), p.copy_after_s);
}

Scheme scheme_of(ColorChoice choice) {
    switch (choice) {
    case ColorChoice::light:
        return Scheme::light;
    case ColorChoice::dark:
        return Scheme::dark;
    case ColorChoice::contrast:
        return Scheme::contrast;
    case ColorChoice::desktop:
        break;
    }
    return scheme_of_desktop();
}

} // namespace rubble::app
