#include "view/level_view.h"

#include <map>

#include <QApplication>
#include <QDropEvent>
#include <QKeyEvent>
#include <QMimeData>
#include <QMouseEvent>
#include <QNativeGestureEvent>
#include <QWheelEvent>

#include "check/flight.h"
#include "edit/brushes.h"
#include "level/item_search.h"
#include "level/order.h"
#include "numbers.h"
#include "theme.h"
#include "tools/measure_tool.h"
#include "tools/snap.h"
#include "view/overlay.h"

namespace rubble::app {

// What the pointer and the keys do in a view.

namespace {

constexpr int k_wheel_step = 120;
constexpr double k_zoom_per_turn = 0.85;

} // namespace

bool LevelView::moves_eye(const QKeyEvent& event) const {
    const bool one_of = event.key() == Qt::Key_W || event.key() == Qt::Key_A || event.key() == Qt::Key_S ||
                        event.key() == Qt::Key_D;
    return one_of && !walker_ && !camera_.flat() && QApplication::mouseButtons() & mouse_.look;
}

/// Slower near things, so that one steers within rooms as well as over a whole site.
void LevelView::move_eye(double seconds) {
    constexpr double k_part_per_s = 0.9, k_slowest_mps = 1.5;
    const auto met = session_.built().met_by({camera_.eye(), camera_.forward()}, cut_z_);
    const double near = std::min(camera_.distance_m, met ? glm::length(met->at - camera_.eye()) : 1e9);
    const double way = std::max(near * k_part_per_s, k_slowest_mps) * seconds;
    Vec3 by(0);
    if (eye_keys_.contains(Qt::Key_W)) by += camera_.forward();
    if (eye_keys_.contains(Qt::Key_S)) by -= camera_.forward();
    if (eye_keys_.contains(Qt::Key_D)) by += camera_.right();
    if (eye_keys_.contains(Qt::Key_A)) by -= camera_.right();
    Camera moved = camera_;
    moved.target += by * way;
    set_camera(moved);
    update();
}

void LevelView::tick() {
    if (!eye_keys_.empty()) {
        if (!(QApplication::mouseButtons() & mouse_.look)) eye_keys_.clear();
        move_eye(double(clock_.restart()) / 1000);
        if (eye_keys_.empty()) frame_.stop();
        return;
    }
    if (!walker_) return;
    walker_->advance(double(clock_.restart()) / 1000);
    update();
}

Pointer LevelView::pointer_at(QPointF screen, Qt::KeyboardModifiers keys) const {
    Pointer p{screen, camera_, camera_.ray(screen), {}, Vec3(0), keys, cut_z_};
    p.hit = met_past_hole(p.ray, screen);
    if (const auto& plane = session_.plane())
        if (const auto at = meet_plane(p.ray, plane->at, plane->n)) {
            p.ground = *at;
            return p;
        }
    const bool side = session_.level().frame == Frame::side;
    if (const auto at = meet_plane(p.ray, Vec3(0), {0, 1, 0}); side && at)
        p.ground = *at; // all happens in the plane that is played in
    else if (p.hit)
        p.ground = p.hit->at;
    else if (const auto at = meet_plane(p.ray, Vec3(0), {0, 0, 1}))
        p.ground = *at;
    else
        p.ground = camera_.target;
    return p;
}

void LevelView::mousePressEvent(QMouseEvent* event) {
    last_pointer_ = event->position();
    framed_ = false; // somebody works here: the picture stays where it is
    if (walker_ || event->button() != mouse_.work || !tool_) return;
    typed_.clear();
    if (const check::Span* arc = event->modifiers() ? nullptr : arc_at(event->position())) {
        Studies studies = session_.studies();
        studies.picked = *arc;
        session_.set_studies(std::move(studies));
        taken_arc_ = true; // until the button is let go
        return;
    }
    if (session_.studies().picked) { // what is clicked elsewhere is looked at instead
        Studies studies = session_.studies();
        studies.picked.reset();
        session_.set_studies(std::move(studies));
    }
    tool_->press(pointer_at(event->position(), event->modifiers()));
    emit hintChanged(tool_->hint());
    update();
}

/// What is dragged out of the tray goes with the pointer as if its tool did, and stands where it is dropped.
void LevelView::dragEnterEvent(QDragEnterEvent* event) {
    const bool known = event->mimeData()->hasFormat(QString::fromLatin1(tray_piece_format)) ||
                       event->mimeData()->hasFormat(QString::fromLatin1(tray_material_format));
    if (!walker_ && tool_ && known)
        event->acceptProposedAction();
    else
        event->ignore();
}

void LevelView::dragMoveEvent(QDragMoveEvent* event) {
    if (!tool_ || walker_) return event->ignore();
    last_pointer_ = event->position(), pointer_inside_ = true;
    const Pointer pointer = pointer_at(event->position(), event->modifiers());
    emit cursorMoved(pointer.ground);
    tool_->move(pointer);
    event->acceptProposedAction();
    update();
}

void LevelView::dropEvent(QDropEvent* event) {
    if (!tool_ || walker_) return event->ignore();
    const Pointer pointer = pointer_at(event->position(), event->modifiers());
    framed_ = false;
    if (const QString format = QString::fromLatin1(tray_material_format);
        event->mimeData()->hasFormat(format)) {
        const auto& solid = session_.built().solid;
        if (!pointer.hit || pointer.hit->brush < 0 || !solid ||
            size_t(pointer.hit->brush) >= solid->brushes.size())
            return event->ignore();
        event->acceptProposedAction();
        emit materialDropped({event->mimeData()->data(format).toStdString()},
                             {solid->brushes[size_t(pointer.hit->brush)]->item, pointer.hit->face});
        return setFocus();
    }
    tool_->press(pointer);
    tool_->release(pointer);
    event->acceptProposedAction();
    emit hintChanged(tool_->hint());
    setFocus();
    update();
}

void LevelView::mouseDoubleClickEvent(QMouseEvent* event) {
    const bool taken = !walker_ && tool_ && event->button() == mouse_.work &&
                       tool_->double_click(pointer_at(event->position(), event->modifiers()));
    if (!taken) return mousePressEvent(event);
    emit hintChanged(tool_->hint());
    update();
}

void LevelView::mouseMoveEvent(QMouseEvent* event) {
    const QPointF by = event->position() - last_pointer_;
    last_pointer_ = event->position();
    if (walker_) {
        walker_->look(-by.x() * 0.25, by.y() * 0.25);
        return;
    }
    // Everything works with two buttons: Shift with the one that looks around pans like the third one.
    const bool pan = event->buttons() & mouse_.move ||
                     (event->buttons() & mouse_.look && event->modifiers() & Qt::ShiftModifier);
    if (pan)
        set_camera(camera_.panned(by));
    else if (event->buttons() & mouse_.look)
        set_camera(camera_.turned(by));
    const Pointer pointer = pointer_at(event->position(), event->modifiers());
    pointer_ground_ = pointer.ground;
    pointed_face_.reset();
    if (pointer.hit) pointed_face_ = edit::plane_of_face(pointer.hit->at, pointer.hit->normal);
    const auto foot = pointer.hit ? foot_of_wall(session_, *pointer.hit) : std::nullopt;
    pointer_stand_ = foot.value_or(pointer.ground);
    if (session_.level().frame == Frame::side) pointer_stand_ = ground_below(session_, pointer.ground);
    pointer_inside_ = true;
    emit cursorMoved(pointer.ground);
    if (tool_ && !taken_arc_ && !(event->buttons() & (mouse_.move | mouse_.look)) && typed_.isEmpty()) {
        tool_->move(pointer);
        emit hintChanged(tool_->hint());
    }
    update();
}

void LevelView::mouseReleaseEvent(QMouseEvent* event) {
    if (walker_ || event->button() != mouse_.work || !tool_ || std::exchange(taken_arc_, false)) return;
    if (typed_.isEmpty())
        tool_->release(pointer_at(event->position(), event->modifiers()));
    else
        tool_->confirm();
    typed_.clear();
    emit hintChanged(tool_->hint());
    update();
}

void LevelView::wheelEvent(QWheelEvent* event) {
    framed_ = false;
    if (walker_) return;
    // A touchpad sends many small turns of the wheel: a tool gets whole steps.
    wheel_ += event->angleDelta().y();
    const int steps = wheel_ / k_wheel_step;
    if (tool_ && tool_->wheel(pointer_at(event->position(), event->modifiers()), steps)) {
        wheel_ -= steps * k_wheel_step;
        update();
        return;
    }
    wheel_ = 0;
    if (mouse_.wheel_moves && !(event->modifiers() & Qt::ControlModifier)) {
        const QPointF by =
            event->pixelDelta().isNull() ? QPointF(event->angleDelta()) / 2 : QPointF(event->pixelDelta());
        set_camera(camera_.panned(by));
    } else {
        const double turns = event->angleDelta().y() / double(k_wheel_step) * (mouse_.wheel_turned ? -1 : 1);
        set_camera(camera_.zoomed(std::pow(k_zoom_per_turn, turns), event->position()));
    }
    update();
}

/// Two fingers that close or open.
bool LevelView::pinch(const QNativeGestureEvent& event) {
    if (walker_ || event.gestureType() != Qt::ZoomNativeGesture) return false;
    framed_ = false;
    set_camera(camera_.zoomed(1 / std::max(0.1, 1 + event.value()), event.position()));
    update();
    return true;
}

bool LevelView::walk_key(QKeyEvent* event) {
    switch (event->key()) {
    case Qt::Key_Escape:
        emit walkEnded(event->modifiers() & Qt::ShiftModifier);
        return true;
    case Qt::Key_R:
        walker_->restart();
        return true;
    case Qt::Key_Backspace:
        walker_->go_back(1);
        return true;
    case Qt::Key_Return:
    case Qt::Key_Enter:
        if (walker_->at_goal()) emit goalLeft();
        return true;
    case Qt::Key_V:
        walker_->toggle_first_person();
        return true;
    case Qt::Key_N: {
        const Camera camera = walker_->camera(size());
        const Ray ray{camera.eye(), camera.forward()};
        const auto hit = session_.built().met_by(ray, 1e6);
        emit noteDropped(hit ? hit->at : walker_->state().at);
        return true;
    }
    default:
        walker_->press(event->key());
        return true;
    }
}

/// Whether a key belongs to a number that is typed while the tool is at something.
bool LevelView::is_typing(const QKeyEvent& event) const {
    if (walker_ || !tool_ || !tool_->busy()) return false;
    if (event.key() == Qt::Key_Backspace) return true;
    const QString text = event.text();
    const bool number = !text.isEmpty() && QStringLiteral("0123456789.,+-*/() mc").contains(text[0]);
    return number && !(typed_.isEmpty() && text[0].isLetter());
}

/// Space turns what is being drawn, unless it stands in a number.
bool LevelView::is_turning(const QKeyEvent& event) const {
    return !walker_ && tool_ && tool_->turns() && event.key() == Qt::Key_Space && typed_.isEmpty();
}

/// Keys of a number are not commands, whatever commands have them.
bool LevelView::event(QEvent* event) {
    if (event->type() == QEvent::NativeGesture && pinch(*static_cast<QNativeGestureEvent*>(event)))
        return true;
    if (event->type() == QEvent::ShortcutOverride &&
        (walker_ || is_typing(*static_cast<QKeyEvent*>(event)) ||
         is_turning(*static_cast<QKeyEvent*>(event)) || moves_eye(*static_cast<QKeyEvent*>(event)))) {
        event->accept();
        return true;
    }
    return QOpenGLWidget::event(event);
}

void LevelView::keyPressEvent(QKeyEvent* event) {
    framed_ = false;
    if (walker_) {
        if (!event->isAutoRepeat()) walk_key(event);
        return;
    }
    if (moves_eye(*event)) {
        if (eye_keys_.empty()) clock_.restart(), frame_.start();
        eye_keys_.insert(event->key());
        return;
    }
    const QString text = event->text();
    if (is_turning(*event)) {
        tool_->turn_quarters(1);
        update();
        return;
    }
    if (is_typing(*event)) {
        if (event->key() == Qt::Key_Backspace)
            typed_.chop(1);
        else
            typed_ += text;
        tool_->typed(typed_);
        emit hintChanged(tool_->hint());
        update();
        return;
    }
    if (tool_ && (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter)) {
        tool_->confirm();
        typed_.clear();
        emit hintChanged(tool_->hint());
        update();
        return;
    }
    if (tool_ && event->key() == Qt::Key_Escape) {
        typed_.clear();
        if (tool_->escape()) {
            emit hintChanged(tool_->hint());
            update();
            return;
        }
    }
    QOpenGLWidget::keyPressEvent(event);
}

void LevelView::keyReleaseEvent(QKeyEvent* event) {
    if (!event->isAutoRepeat()) eye_keys_.erase(event->key());
    if (walker_ && !event->isAutoRepeat())
        walker_->release(event->key());
    else
        QOpenGLWidget::keyReleaseEvent(event);
}

void LevelView::focusOutEvent(QFocusEvent* event) {
    // Keys let go elsewhere would stay down for ever.
    eye_keys_.clear();
    if (walker_)
        for (int key : {Qt::Key_W, Qt::Key_A, Qt::Key_S, Qt::Key_D, Qt::Key_Space, Qt::Key_C, Qt::Key_Up,
                        Qt::Key_Down, Qt::Key_Left, Qt::Key_Right})
            walker_->release(key);
    QOpenGLWidget::focusOutEvent(event);
}

} // namespace rubble::app
