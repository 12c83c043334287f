#include "theme.h"

#include <algorithm>

#include <QApplication>
#include <QFont>
#include <QFontInfo>
#include <QPalette>
#include <QStyle>
#include <QStyleFactory>

namespace rubble::app {

namespace {

const Colors k_light{{0xF3, 0xEF, 0xE7}, {0xE9, 0xE3, 0xD8}, {0xCF, 0xC6, 0xB6}, {0x2A, 0x27, 0x23},
                     {0x6B, 0x64, 0x59}, {0xBD, 0xB6, 0xA9}, {0xB5, 0x53, 0x2D}, {0x1F, 0x8A, 0x7D},
                     {0x5B, 0x7C, 0x99}, {0xC9, 0x8A, 0x1B}, {0x8A, 0x3A, 0x66}, {0xE4, 0xEC, 0xEE},
                     {0xF3, 0xE2, 0xD8}, {0xA2, 0x47, 0x1F}, {0xDD, 0xEB, 0xE8}, {0xA7, 0x9F, 0x92}};
const Colors k_dark{{0x24, 0x22, 0x1F}, {0x2D, 0x2A, 0x26}, {0x4B, 0x46, 0x3E}, {0xEE, 0xE8, 0xDC},
                    {0xB0, 0xA7, 0x99}, {0x9D, 0x96, 0x8A}, {0xDB, 0x77, 0x4D}, {0x4F, 0xBB, 0xAC},
                    {0x93, 0xB3, 0xCE}, {0xE0, 0xAC, 0x46}, {0xD5, 0x86, 0xB3}, {0x2B, 0x31, 0x34},
                    {0x4A, 0x35, 0x2B}, {0xC4, 0x62, 0x3A}, {0x24, 0x43, 0x3F}, {0x7B, 0x74, 0x69}};
const Colors k_contrast{{0xFF, 0xFF, 0xFF}, {0xFA, 0xF8, 0xF4}, {0x55, 0x50, 0x48}, {0x00, 0x00, 0x00},
                        {0x2E, 0x2B, 0x27}, {0xC9, 0xC3, 0xB8}, {0x93, 0x34, 0x0E}, {0x00, 0x5F, 0x55},
                        {0x1E, 0x48, 0x70}, {0x75, 0x4A, 0x00}, {0x70, 0x0D, 0x4B}, {0xEF, 0xF5, 0xF7},
                        {0xFF, 0xE3, 0xD3}, {0x74, 0x26, 0x06}, {0xD3, 0xEE, 0xEA}, {0x6B, 0x66, 0x5E}};

const Colors& colors_of(Scheme scheme) {
    switch (scheme) {
    case Scheme::dark:
        return k_dark;
    case Scheme::contrast:
        return k_contrast;
    case Scheme::light:
        break;
    }
    return k_light;
}

/// Those in use: with values from the first time that anybody asks.
Colors& in_use() {
    static Colors colors = colors_of(Scheme::light);
    return colors;
}

} // namespace

const Colors& colors() { return in_use(); }

Scheme scheme_of_desktop() {
    // Asked before it is changed here.
    static const int lightness = QGuiApplication::palette().color(QPalette::Window).lightness();
    return lightness < 128 ? Scheme::dark : Scheme::light;
}

void apply_theme(QApplication& application, double text_scale, Scheme scheme) {
    constexpr int k_least_px = 13, k_largest_px = 60;
    scheme_of_desktop();
    in_use() = colors_of(scheme);
    if (application.style()->objectName() != QStringLiteral("fusion"))
        application.setStyle(QStyleFactory::create(QStringLiteral("Fusion")));
    static const int desktop_px = QFontInfo(QApplication::font()).pixelSize(); // before it is changed here
    const int text_px =
        std::clamp(int(std::max(desktop_px, k_least_px) * text_scale), k_least_px, k_largest_px);
    QFont font("Inter");
    font.setPixelSize(text_px);
    font.setStyleHint(QFont::SansSerif);
    application.setFont(font);

    QPalette palette;
    palette.setColor(QPalette::Window, color::panel);
    palette.setColor(QPalette::WindowText, color::ink);
    palette.setColor(QPalette::Base, color::paper);
    palette.setColor(QPalette::AlternateBase, color::panel);
    palette.setColor(QPalette::Text, color::ink);
    palette.setColor(QPalette::Button, color::paper);
    palette.setColor(QPalette::ButtonText, color::ink);
    palette.setColor(QPalette::Highlight, color::accent);
    palette.setColor(QPalette::HighlightedText, Qt::white);
    palette.setColor(QPalette::PlaceholderText, color::faint_ink);
    palette.setColor(QPalette::Link, color::sea_green);
    palette.setColor(QPalette::ToolTipBase, color::paper);
    palette.setColor(QPalette::ToolTipText, color::ink);
    for (const QPalette::ColorRole role : {QPalette::WindowText, QPalette::Text, QPalette::ButtonText})
        palette.setColor(QPalette::Disabled, role, colors().faded);
    application.setPalette(palette);

    QString sheet = QStringLiteral(R"(
        QToolTip { border: 1px solid @line; padding: 3px; }
        QLabel[role="heading"] { font-weight: 600; }
        QLabel[role="faint"] { color: @faint; font-size: @small; }
        QLabel[role="meaning"] { color: @faint; font-size: @small; }
        QToolButton[role="faint"] { border: none; background: transparent; color: @faint; font-size: @small; padding: 2px 14px 2px 4px; }
        QToolButton[role="faint"]:hover { color: @accent; }
        QToolButton[role="tool"] { border: 1px solid @line; border-radius: 4px; background: @paper; }
        QToolButton[role="tool"]:hover { border-color: @accent; }
        QToolButton[role="tool"]:checked { border: 2px solid @accent; background: @picked; }
        QPushButton { border: 1px solid @line; border-radius: 4px; background: @paper; padding: 4px 10px; }
        QPushButton:hover { border-color: @accent; }
        QPushButton:focus { border: 2px solid @accent; padding: 3px 9px; }
        QPushButton:disabled { color: @faded; }
        QPushButton[role="main"] { background: @accent; color: white; font-weight: 600; border: none; padding: 6px 16px; }
        QPushButton[role="main"]:hover { background: @deep; }
        QPushButton:checked { background: @checked; border-color: @green; }
        QFrame[role="line"] { background: @line; }
        QFrame[role="floating"] { background: @paper; border: 1px solid @line; border-radius: 4px; }
        QListWidget, QTreeWidget { border: none; background: transparent; outline: none; show-decoration-selected: 0; }
        QTreeWidget::item { padding: 4px 2px; border-radius: 4px; }
        QTreeWidget::item:selected { background: @picked; color: @ink; border: 1px solid @accent; }
        QTreeWidget::branch { background: transparent; }
        QTreeWidget::indicator { width: 11px; height: 11px; border: 1px solid @faint; border-radius: 3px; background: @paper; }
        QTreeWidget::indicator:checked { background: @green; border-color: @green; }
        QListWidget::item { padding: 4px 6px; border-radius: 4px; }
        QListWidget::item:selected { background: @picked; color: @ink; border: 1px solid @accent; }
        QLineEdit, QComboBox { border: 1px solid @line; border-radius: 4px; background: @paper; padding: 2px 6px; }
        QDialogButtonBox { dialogbuttonbox-buttons-have-icons: 0; }
        QLineEdit:focus, QComboBox:focus { border-color: @accent; }
        QScrollArea { border: none; background: transparent; }
        QTabWidget::pane { border: 1px solid @line; }
        QTabWidget > QStackedWidget > QWidget { background: @panel; }
        QListWidget::indicator { width: 11px; height: 11px; border: 1px solid @faint; border-radius: 3px; background: @paper; }
        QListWidget::indicator:checked { background: @green; border-color: @green; }
        QScrollBar:vertical { background: transparent; width: 9px; margin: 0; }
        QScrollBar::handle:vertical { background: @line; border-radius: 4px; min-height: 24px; }
        QScrollBar:horizontal { background: transparent; height: 9px; margin: 0; }
        QScrollBar::handle:horizontal { background: @line; border-radius: 4px; min-width: 24px; }
        QScrollBar::add-line, QScrollBar::sub-line { height: 0; width: 0; }
        QTableView { background: @paper; alternate-background-color: @panel; border: 1px solid @line; selection-background-color: @picked; selection-color: @ink; }
        QHeaderView::section { background: @panel; border: none; border-bottom: 1px solid @line; padding: 2px 6px; }
        QSlider::groove:vertical { background: @line; width: 6px; border-radius: 3px; }
        QSlider::add-page:vertical, QSlider::sub-page:vertical { background: transparent; }
        QSlider::handle:vertical { background: @ink; height: 8px; margin: 0 -7px; border-radius: 3px; }
        QSlider:focus { border: 1px dotted @accent; }
        QComboBox::drop-down { border: none; width: 18px; }
        QComboBox::down-arrow { image: none; border-left: 4px solid @panel; border-right: 4px solid @panel; border-top: 5px solid @faint; width: 0; height: 0; }
        QComboBox QAbstractItemView { background: @paper; color: @ink; border: 1px solid @line; selection-background-color: @picked; selection-color: @ink; outline: none; }
        QMenuBar { background: @panel; border-bottom: 1px solid @line; }
        QMenuBar::item { padding: 3px 9px; background: transparent; }
        QMenuBar::item:selected { background: @picked; color: @ink; }
        QMenu { background: @paper; border: 1px solid @line; padding: 4px; }
        QMenu::item { padding: 4px 22px 4px 12px; border-radius: 4px; }
        QMenu::item:selected { background: @picked; color: @ink; }
        QMenu::item:disabled { color: @faded; }
        QMenu::separator { height: 1px; background: @line; margin: 4px 8px; }
        QSplitter::handle { background: @line; }
    )");
    const std::pair<const char*, const QColor*> roles[] = {
        {"@line", &color::line},       {"@faint", &color::faint_ink},  {"@accent", &color::accent},
        {"@paper", &color::paper},     {"@picked", &colors().picked},  {"@ink", &color::ink},
        {"@panel", &color::panel},     {"@faded", &colors().faded},    {"@deep", &colors().accent_deep},
        {"@green", &color::sea_green}, {"@checked", &colors().checked}};
    for (const auto& [name, role] : roles) sheet.replace(QLatin1String(name), role->name());
    sheet.replace(QStringLiteral("@small"), QStringLiteral("%1px").arg(text_px * 12 / 13));
    application.setStyleSheet(sheet);
}

} // namespace rubble::app
