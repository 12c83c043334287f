#pragma once

#include <optional>

#include <QPainter>
#include <QString>

#include "session/session.h"
#include "view/camera.h"
#include "view/picking.h"

namespace rubble::app {

/// The pointer in the level's coordinates.
struct Pointer {
    QPointF screen;
    Camera camera;
    Ray ray;
    std::optional<Hit> hit;
    Vec3 ground{0}; ///< on what is under the pointer, else on the working plane
    Qt::KeyboardModifiers keys;
    double cut_z = 1e6; ///< what lies above is not seen
    bool snaps() const { return !(keys & Qt::AltModifier); }
};

/// Turns pointer and key events into edits: a preview while something goes on, then one edit. Knows no
/// widget. What it draws over the level is drawn with a painter in screen coordinates.
class Tool {
public:
    explicit Tool(Session& session) : session_(session) {}
    virtual ~Tool() = default;

    virtual void press(const Pointer&) {}
    virtual void move(const Pointer&) {}
    virtual void release(const Pointer&) {}
    /// The second press of a double click; false where it is a press like any other.
    virtual bool double_click(const Pointer&) { return false; }
    /// Steps of the wheel; false where they are not the tool's.
    virtual bool wheel(const Pointer&, int) { return false; }
    /// A number typed while something is being dragged, as text so far.
    virtual void typed(const QString&) {}
    virtual void confirm() {}
    /// Takes a step back; false when there was nothing to take back.
    virtual bool escape() { return false; }
    /// What is being drawn turned by quarters, counter-clockwise; false where nothing is that turns.
    virtual bool turn_quarters(int) { return false; }
    /// What is marked raised by steps, from the keyboard; false where that is not the tool's.
    virtual bool raise(int) { return false; }
    /// The tool's own place in the level moved by cells to the right and up the screen, from the keyboard;
    /// false where it has none.
    virtual bool step(int, int) { return false; }
    /// Another thing of its kind taken into the hand that fits where the pointer is; false where none does.
    virtual bool next_fitting() { return false; }
    virtual bool busy() const { return false; }
    /// Whether a click takes what is there; then it takes drawn jumps as well.
    virtual bool selects() const { return false; }
    /// Whether something in the hand can be turned by the key for that.
    virtual bool turns() const { return busy(); }
    /// Around what is worked on: what stands before it is seen through.
    virtual std::optional<Box3> worked_on() const { return {}; }
    virtual void paint(QPainter&, const Camera&) {}
    virtual QString hint() const { return {}; }

protected:
    Session& session_;
};

} // namespace rubble::app
