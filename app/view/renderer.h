#pragma once

#include <array>
#include <functional>
#include <map>
#include <memory>

#include <QImage>
#include <QOpenGLBuffer>
#include <QOpenGLFunctions_3_3_Core>
#include <QOpenGLShaderProgram>
#include <QOpenGLTexture>
#include <QOpenGLVertexArrayObject>

#include "level/dressing/light.h"
#include "view/camera.h"
#include "view/lit.h"
#include "view/scene_mesh.h"
#include "view/see_through.h"

namespace rubble::app {

/// What a view shows of matter: as it is; by its edges alone; slopes by whether the character walks them;
/// what the character collides with; walls by whether the character steps or jumps up them; without what it
/// is dressed in; by how many dots of its pictures come to a metre; dressed, but without its lights.
enum class ViewMode { plain, wire, slope, collision, size, grey, density, day };

/// Draws the level with OpenGL 3.3: stone with chalk lines, ink edges, the tint of the ground, and hatching
/// where the cutaway opens matter. Needs its context current in every call.
class Renderer : protected QOpenGLFunctions_3_3_Core {
public:
    void initialize();
    /// Sends what differs from the scene before.
    void set_scene(const SceneMesh& mesh);
    void set_tint(const TintMesh& mesh);
    /// The pictures of materials, all of one size; a null one is not there yet.
    void set_materials(const std::vector<QImage>& images);
    void set_collision(const std::vector<SceneMesh::Line>& lines);

    struct Look {
        double cut_z = 1e6;
        double module_m = 4;
        double pixel_ratio = 1;
        bool tint = true;
        bool cuts = false; ///< their outlines
        ViewMode mode = ViewMode::plain;
        bool dressed = false;          ///< in plain mode: with the pictures of materials
        double dots_per_m = 512;       ///< that the project wants of pictures
        std::vector<Light> lights;     ///< in plain mode, where it is dressed; none: as by day
        ShadowMaps* shadows = nullptr; ///< that those throw
        UsedTo eye = {};
        std::vector<float> picture_dots;   ///< of each material's picture: across, as many layers as are told
        double max_slope_deg = 45;         ///< of the character, to tell slopes by
        double step_m = 0.4, jump_m = 1.2; ///< likewise, for walls
        bool fades = true;                 ///< lines where they crowd
        std::optional<SeeThrough> hole;
        /// How strongly edges are drawn: where it is dressed, only so that one still finds them.
        float edge_ink() const { return dressed && mode == ViewMode::plain ? 0.3f : 1.0f; }
    };
    /// A picture on a plane: its corners from the lower left, counter-clockwise.
    struct Picture {
        const QImage* image;
        std::array<Vec3, 4> corners;
        double opacity;
    };
    void draw(const Camera& camera, const Look& look, const std::vector<Picture>& pictures,
              const std::function<void()>& draw_tiles);
    /// Draws how deep matter lies, as far as it is in a box; no colours.
    void draw_depth(const glm::mat4& view, const Box3& within);
    /// The box around what was sent.
    Box3 box() const;

private:
    struct Batch {
        QOpenGLVertexArrayObject array;
        QOpenGLBuffer buffer{QOpenGLBuffer::VertexBuffer};
        int count = 0;
    };
    void set_face_layout(Batch& batch);
    void fill(Batch& batch, const void* data, int bytes, int count);

    QOpenGLShaderProgram faces_program_, edges_program_, tint_program_, picture_program_, depth_program_;
    /// A chunk of the scene as the graphics card has it.
    struct SceneBatches {
        std::shared_ptr<const SceneMesh::Chunk> of;
        Batch faces, edges;
        Box3 box;
    };
    void draw_pictures(const glm::mat4& view, const std::vector<Picture>& pictures);
    void attribute(Batch& batch, int location, int size, int stride, int offset, GLenum type = GL_FLOAT);
    void create(Batch& batch);

    std::vector<std::unique_ptr<SceneBatches>> scene_;
    Batch cuts_, decals_, tint_, collision_, picture_;
    std::map<qint64, std::unique_ptr<QOpenGLTexture>> textures_; ///< by the pictures' keys
    std::unique_ptr<QOpenGLTexture> materials_;                  ///< a layer for each
};

/// Tells a program of the eye, and of the hole that is seen through.
void set_eye(QOpenGLShaderProgram& program, const Camera& camera, const Renderer::Look& look);

} // namespace rubble::app
