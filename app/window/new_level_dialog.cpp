#include "window/new_level_dialog.h"

#include <QCheckBox>
#include <QDialog>
#include <QDialogButtonBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QPainter>
#include <QToolButton>

#include "text.h"
#include "theme.h"

namespace rubble::app {

namespace {

constexpr int k_wide = 132, k_high = 84;

void figure(QPainter& painter, double x, double ground, double height) {
    painter.setPen(Qt::NoPen);
    painter.setBrush(color::accent);
    painter.drawRoundedRect(QRectF(x - height / 6, ground - height, height / 3, height), height / 6,
                            height / 6);
}

/// A room looked into, from the corner.
void picture_space(QPainter& painter) {
    painter.setPen(QPen(color::ink, 1));
    painter.setBrush(color::stone.lighter(118));
    painter.drawPolygon(QPolygonF({{16, 52}, {66, 30}, {116, 52}, {66, 76}}));
    painter.setBrush(color::stone);
    painter.drawPolygon(QPolygonF({{16, 52}, {66, 30}, {66, 12}, {16, 32}}));
    painter.setBrush(color::stone.darker(112));
    painter.drawPolygon(QPolygonF({{84, 48}, {100, 55}, {84, 63}, {68, 55}}));
    figure(painter, 52, 60, 16);
}

/// Ground in steps with a gap, from the side.
void picture_side(QPainter& painter) {
    painter.setPen(QPen(color::ink, 1));
    painter.setBrush(color::stone);
    painter.drawPolygon(QPolygonF({{8, 62}, {48, 62}, {48, 78}, {8, 78}}));
    painter.drawPolygon(QPolygonF({{70, 62}, {84, 62}, {104, 46}, {124, 46}, {124, 78}, {70, 78}}));
    painter.setPen(QPen(color::sea_green, 2, Qt::DotLine));
    painter.setBrush(Qt::NoBrush);
    painter.drawArc(QRectF(44, 40, 32, 44), 20 * 16, 140 * 16);
    figure(painter, 34, 62, 20);
}

/// Walls and ways, from above.
void picture_plan(QPainter& painter) {
    painter.setPen(Qt::NoPen);
    painter.setBrush(color::stone.lighter(118));
    painter.drawRect(QRectF(18, 10, 96, 66));
    painter.setBrush(color::stone.darker(112));
    for (const QRectF& wall : {QRectF(18, 10, 96, 6), QRectF(18, 70, 96, 6), QRectF(18, 10, 6, 66),
                               QRectF(108, 10, 6, 66), QRectF(44, 10, 6, 42), QRectF(72, 34, 6, 42)})
        painter.drawRect(wall);
    painter.setBrush(color::accent);
    painter.drawEllipse(QPointF(34, 58), 5, 5);
}

QIcon icon_of(void (*picture)(QPainter&)) {
    QPixmap pixmap(k_wide * 2, k_high * 2);
    pixmap.setDevicePixelRatio(2);
    pixmap.fill(Qt::transparent);
    QPainter painter(&pixmap);
    painter.setRenderHint(QPainter::Antialiasing);
    picture(painter);
    return QIcon(pixmap);
}

} // namespace

QString frame_name(Frame frame) {
    switch (frame) {
    case Frame::side:
        return tr("Side");
    case Frame::plan:
        return tr("Plan");
    case Frame::space:
        break;
    }
    return tr("Space");
}

std::optional<Beginning> ask_beginning(QWidget& parent) {
    QDialog dialog(&parent);
    dialog.setWindowTitle(tr("New level"));
    auto* column = new QVBoxLayout(&dialog);
    auto* question = new QLabel(tr("How is it seen and played?"));
    question->setProperty("role", "heading");
    column->addWidget(question);
    auto* row = new QHBoxLayout;
    column->addLayout(row);
    std::optional<Frame> chosen;
    struct Choice {
        Frame frame;
        void (*picture)(QPainter&);
        QString means;
    };
    const Choice choices[] = {{Frame::space, picture_space, tr("&Space\nwalked in three dimensions")},
                              {Frame::side, picture_side, tr("S&ide\nrun and jumped, seen from the side")},
                              {Frame::plan, picture_plan, tr("&Plan\nwalked, seen from above")}};
    for (const Choice& choice : choices) {
        auto* button = new QToolButton;
        button->setObjectName(QStringLiteral("frame-") + frame_name(choice.frame).toLower());
        button->setIcon(icon_of(choice.picture));
        button->setIconSize({k_wide, k_high});
        button->setText(choice.means);
        button->setAccessibleName(frame_name(choice.frame));
        button->setToolButtonStyle(Qt::ToolButtonTextUnderIcon);
        button->setFocusPolicy(Qt::StrongFocus);
        button->setMinimumWidth(
            dialog.fontMetrics().horizontalAdvance(tr("run and jumped, seen from the side")) + 24);
        row->addWidget(button);
        QObject::connect(button, &QToolButton::clicked, &dialog, [&dialog, &chosen, frame = choice.frame] {
            chosen = frame;
            dialog.accept();
        });
    }
    auto* all_wall = new QCheckBox(tr("A Plan level begins all &wall, to carve ways into it"));
    column->addWidget(all_wall);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Cancel);
    QObject::connect(buttons, &QDialogButtonBox::rejected, &dialog, &QDialog::reject);
    column->addWidget(buttons);
    if (dialog.exec() != QDialog::Accepted || !chosen) return {};
    return Beginning{*chosen, all_wall->isChecked() && *chosen == Frame::plan};
}

} // namespace rubble::app
