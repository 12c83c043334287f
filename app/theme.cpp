#include "theme.h"

#include <QApplication>
#include <QFont>
#include <QFontInfo>
#include <QPalette>
#include <QStyleFactory>

namespace rubble::app {

void apply_theme(QApplication& application, double text_scale) {
    constexpr int k_least_px = 13, k_largest_px = 60;
    application.setStyle(QStyleFactory::create("Fusion"));
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
    palette.setColor(QPalette::ToolTipBase, color::paper);
    palette.setColor(QPalette::ToolTipText, color::ink);
    application.setPalette(palette);

    QString sheet = QStringLiteral(R"(
        QToolTip { border: 1px solid #CFC6B6; padding: 3px; }
        QLabel[role="heading"] { font-weight: 600; }
        QLabel[role="faint"] { color: #6B6459; font-size: @small; }
        QLabel[role="meaning"] { color: #6B6459; font-size: @small; }
        QToolButton[role="faint"] { border: none; background: transparent; color: #6B6459; font-size: @small; padding: 2px 14px 2px 4px; }
        QToolButton[role="faint"]:hover { color: #B5532D; }
        QToolButton[role="tool"] { border: 1px solid #CFC6B6; border-radius: 4px; background: #F3EFE7; }
        QToolButton[role="tool"]:hover { border-color: #B5532D; }
        QToolButton[role="tool"]:checked { border: 2px solid #B5532D; background: #F3E2D8; }
        QPushButton { border: 1px solid #CFC6B6; border-radius: 4px; background: #F3EFE7; padding: 4px 10px; }
        QPushButton:hover { border-color: #B5532D; }
        QPushButton:focus { border: 2px solid #B5532D; padding: 3px 9px; }
        QPushButton:disabled { color: #A79F92; }
        QPushButton[role="main"] { background: #B5532D; color: white; font-weight: 600; border: none; padding: 6px 16px; }
        QPushButton[role="main"]:hover { background: #A2471F; }
        QPushButton:checked { background: #DDEBE8; border-color: #1F8A7D; }
        QFrame[role="floating"] { background: #F3EFE7; border: 1px solid #CFC6B6; border-radius: 4px; }
        QListWidget, QTreeWidget { border: none; background: transparent; outline: none; show-decoration-selected: 0; }
        QTreeWidget::item { padding: 4px 2px; border-radius: 4px; }
        QTreeWidget::item:selected { background: #F3E2D8; color: #2A2723; border: 1px solid #B5532D; }
        QTreeWidget::branch { background: transparent; }
        QTreeWidget::indicator { width: 11px; height: 11px; border: 1px solid #6B6459; border-radius: 3px; background: #F3EFE7; }
        QTreeWidget::indicator:checked { background: #1F8A7D; border-color: #1F8A7D; }
        QListWidget::item { padding: 4px 6px; border-radius: 4px; }
        QListWidget::item:selected { background: #F3E2D8; color: #2A2723; border: 1px solid #B5532D; }
        QLineEdit, QComboBox { border: 1px solid #CFC6B6; border-radius: 4px; background: #F3EFE7; padding: 2px 6px; }
        QDialogButtonBox { dialogbuttonbox-buttons-have-icons: 0; }
        QLineEdit:focus, QComboBox:focus { border-color: #B5532D; }
        QScrollArea { border: none; background: transparent; }
        QTabWidget::pane { border: 1px solid #CFC6B6; }
        QTabWidget > QStackedWidget > QWidget { background: #E9E3D8; }
        QListWidget::indicator { width: 11px; height: 11px; border: 1px solid #6B6459; border-radius: 3px; background: #F3EFE7; }
        QListWidget::indicator:checked { background: #1F8A7D; border-color: #1F8A7D; }
        QScrollBar:vertical { background: transparent; width: 9px; margin: 0; }
        QScrollBar::handle:vertical { background: #CFC6B6; border-radius: 4px; min-height: 24px; }
        QScrollBar:horizontal { background: transparent; height: 9px; margin: 0; }
        QScrollBar::handle:horizontal { background: #CFC6B6; border-radius: 4px; min-width: 24px; }
        QScrollBar::add-line, QScrollBar::sub-line { height: 0; width: 0; }
        QTableView { background: #F3EFE7; alternate-background-color: #E9E3D8; border: 1px solid #CFC6B6; selection-background-color: #F3E2D8; selection-color: #2A2723; }
        QHeaderView::section { background: #E9E3D8; border: none; border-bottom: 1px solid #CFC6B6; padding: 2px 6px; }
        QSlider::groove:vertical { background: #DDD5C7; width: 6px; border-radius: 3px; }
        QSlider::add-page:vertical, QSlider::sub-page:vertical { background: transparent; }
        QSlider::handle:vertical { background: #2A2723; height: 8px; margin: 0 -7px; border-radius: 3px; }
        QSlider:focus { border: 1px dotted #B5532D; }
        QComboBox::drop-down { border: none; width: 18px; }
        QComboBox::down-arrow { image: none; border-left: 4px solid #E9E3D8; border-right: 4px solid #E9E3D8; border-top: 5px solid #6B6459; width: 0; height: 0; }
        QComboBox QAbstractItemView { background: #F3EFE7; color: #2A2723; border: 1px solid #CFC6B6; selection-background-color: #F3E2D8; selection-color: #2A2723; outline: none; }
        QMenuBar { background: #E9E3D8; border-bottom: 1px solid #CFC6B6; }
        QMenuBar::item { padding: 3px 9px; background: transparent; }
        QMenuBar::item:selected { background: #F3E2D8; color: #2A2723; }
        QMenu { background: #F3EFE7; border: 1px solid #CFC6B6; padding: 4px; }
        QMenu::item { padding: 4px 22px 4px 12px; border-radius: 4px; }
        QMenu::item:selected { background: #F3E2D8; color: #2A2723; }
        QMenu::item:disabled { color: #A79F92; }
        QMenu::separator { height: 1px; background: #CFC6B6; margin: 4px 8px; }
        QSplitter::handle { background: #CFC6B6; }
    )");
    sheet.replace(QStringLiteral("@small"), QStringLiteral("%1px").arg(text_px * 12 / 13));
    application.setStyleSheet(sheet);
}

} // namespace rubble::app
