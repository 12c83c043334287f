#pragma once

#include "edit/dressing.h"
#include "tools/tool.h"

namespace rubble::app {

/// Handles on the face picked last by which its picture is moved, turned and sized where it lies, and that of
/// the other picked faces with it.
class LayGrips {
public:
    explicit LayGrips(Session& session) : session_(session) {}

    /// Takes a handle at the pointer; false where none is.
    bool press(const Pointer& pointer);
    void move(const Pointer& pointer);
    void release();
    void put_back();
    bool busy() const { return drag_.has_value(); }
    void paint(QPainter& painter, const Camera& camera) const;

private:
    enum class Grip { move, turn, size };
    /// The face with the handles, and where they are.
    struct Face {
        edit::FaceRef ref;
        Material material;
        Brush brush;
        Lay lay;
        Vec3 normal, middle;
    };
    struct Handle {
        Grip grip;
        QPointF at;
    };
    std::optional<Face> face(const Level& level, const edit::FaceRef& ref) const;
    std::optional<Face> face() const;
    static std::vector<Handle> handles(const Face& face, const Camera& camera);

    struct Drag {
        Grip grip;
        Level before;
        std::vector<edit::FaceRef> faces;
        Face face;
        Vec3 from;
        bool moved = false;
    };
    Session& session_;
    std::optional<Drag> drag_;
};

} // namespace rubble::app
