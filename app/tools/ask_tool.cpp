#include "tools/ask_tool.h"

#include "level/order.h"
#include "text.h"
#include "theme.h"
#include "view/overlay.h"

namespace rubble::app {

namespace {

/// A press that goes no further than this is a click (pixels).
constexpr double k_click_px = 6;

} // namespace

void AskTool::press(const Pointer& pointer) {
    from_ = at_ = pointer.ground, pressed_ = pointer.screen;
    dragged_ = false;
}

void AskTool::move(const Pointer& pointer) {
    at_ = pointer.ground;
    if (from_) dragged_ = dragged_ || QLineF(pressed_, pointer.screen).length() > k_click_px;
}

void AskTool::release(const Pointer& pointer) {
    if (!from_) return;
    at_ = pointer.ground;
    const auto starts = elements_of(session_.level(), Role::start);
    if (dragged_)
        session_.ask(*from_, at_);
    else if (!starts.empty())
        session_.ask(met_at(session_.level(), *starts[0]->element()), at_);
    else
        emit session_.message(tr("There is no start: drag from where one comes to where one wants to get"));
    from_.reset();
}

bool AskTool::escape() {
    const bool was = from_.has_value();
    from_.reset();
    return was;
}

void AskTool::paint(QPainter& painter, const Camera& camera) {
    if (!from_ || !dragged_) return;
    painter.setPen(QPen(color::accent, 1.6, Qt::DashLine));
    draw_line(painter, camera, *from_, at_);
}

QString AskTool::hint() const {
    return tr("Click a place: does one get there from the start? Drag from one place to another to ask "
              "between them");
}

} // namespace rubble::app
