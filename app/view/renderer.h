#pragma once

#include <QOpenGLBuffer>
#include <QOpenGLFunctions_3_3_Core>
#include <QOpenGLShaderProgram>
#include <QOpenGLVertexArrayObject>

#include "view/camera.h"
#include "view/scene_mesh.h"

namespace rubble::app {

/// What a view shows of matter: as it is; by its edges alone; slopes by whether the character walks them;
/// what the character collides with.
enum class ViewMode { plain, wire, slope, collision };

/// Draws the level with OpenGL 3.3: stone with chalk lines, ink edges, the tint of the ground, and hatching
/// where the cutaway opens matter. Needs its context current in every call.
class Renderer : protected QOpenGLFunctions_3_3_Core {
public:
    void initialize();
    /// Sends what differs from the scene before.
    void set_scene(const SceneMesh& mesh);
    void set_tint(const TintMesh& mesh);
    void set_collision(const std::vector<SceneMesh::Line>& lines);

    struct Look {
        double cut_z = 1e6;
        double module_m = 4;
        double pixel_ratio = 1;
        bool tint = true;
        bool cuts = false; ///< their outlines
        ViewMode mode = ViewMode::plain;
        double max_slope_deg = 45; ///< of the character, to tell slopes by
    };
    void draw(const Camera& camera, const Look& look);

private:
    struct Batch {
        QOpenGLVertexArrayObject array;
        QOpenGLBuffer buffer{QOpenGLBuffer::VertexBuffer};
        int count = 0;
    };
    void fill(Batch& batch, const void* data, int bytes, int count);

    QOpenGLShaderProgram faces_program_, edges_program_, tint_program_;
    /// A chunk of the scene as the graphics card has it.
    struct SceneBatches {
        std::shared_ptr<const SceneMesh::Chunk> of;
        Batch faces, edges;
    };
    void attribute(Batch& batch, int location, int size, int stride, int offset);
    void create(Batch& batch);

    std::vector<std::unique_ptr<SceneBatches>> scene_;
    Batch cuts_, tint_, collision_;
};

} // namespace rubble::app
