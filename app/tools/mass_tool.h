#pragma once

#include "edit/massing.h"
#include "tools/tool.h"

namespace rubble::app {

/// Massing. A drag over the faces of a mass, or over the ground to begin one, marks an area of cells; Shift
/// adds to it, Ctrl takes all that are alike. The wheel over it, the arrow on it, or keys raise and sink it
/// by whole cells; the marks on its sides and corners slope it. Sinking ground that is no mass begins a cut.
class MassTool : public Tool {
public:
    explicit MassTool(Session& session) : Tool(session) {}

    void press(const Pointer& pointer) override;
    void move(const Pointer& pointer) override;
    void release(const Pointer& pointer) override;
    bool wheel(const Pointer& pointer, int steps) override;
    void typed(const QString& text) override;
    void confirm() override;
    bool escape() override;
    bool busy() const override { return drag_.has_value(); }
    void paint(QPainter& painter, const Camera& camera) override;
    QString hint() const override;

    /// The marked area raised by keys; a new mass where it lies on the ground. False where nothing is marked.
    bool raise(int by) override;

private:
    /// A square of a mass, or of one that would begin here.
    struct Spot {
        ItemId item; ///< empty: of `begun`
        Brush mass;  ///< without cells where it would begin
        int axis = 2, way = 1;
        std::array<int, 2> square{0, 0};
        int line = 0;
        bool operator==(const Spot&) const = default;
    };
    enum class Grip { mark, raise, tilt };
    struct Handle {
        Grip grip = Grip::raise;
        edit::AreaEdge edge;
        Vec3 place{0};
        QPointF at;
    };
    struct Drag {
        Grip grip = Grip::mark;
        edit::AreaEdge edge;
        Spot from, to;
        Vec3 anchor{0};
        double first = 0;
        int steps = 0;  ///< outward in the grid
        MassGrid cells; ///< when it began
        edit::MassArea area;
        bool adds = false, alike = false;
    };
    /// An area on the ground, where no mass is yet.
    struct Begun {
        Brush mass;
        edit::MassArea area;
    };

    std::optional<Spot> spot(const Pointer& pointer) const;
    std::optional<Spot> spot_on(const ItemId& id, const Brush& mass, const Vec3& at,
                                const Vec3& normal) const;
    Spot spot_on_ground(const Vec3& at) const;
    edit::MassArea area_of(const Spot& from, const Spot& to) const;
    /// What is marked, and the mass it is marked on.
    const edit::MassArea* area() const;
    const Brush* mass() const;
    std::vector<Handle> handles(const Camera& camera) const;
    std::optional<Handle> handle_near(const Pointer& pointer) const;
    void mark(const Drag& drag);
    void apply(const Handle& handle, int steps);
    void begin_mass(int by);
    /// The mass that begins when the area on the ground is raised or sunk, and what is marked on it then.
    std::optional<std::pair<Item, edit::MassArea>> begun_item(int by) const;
    void show_drag();
    /// The area with a number of steps of the drag in hand.
    edit::Massed dragged() const;
    void paint_area(QPainter& painter, const Camera& camera, const Brush& mass, const edit::MassArea& area,
                    bool filled) const;

    std::optional<Drag> drag_;
    std::optional<Spot> hover_;
    std::optional<Handle> hot_;
    std::optional<Begun> begun_;
};

} // namespace rubble::app
