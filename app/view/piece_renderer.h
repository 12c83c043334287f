#pragma once

#include <map>
#include <memory>

#include <QOpenGLBuffer>
#include <QOpenGLFunctions_3_3_Core>
#include <QOpenGLShaderProgram>
#include <QOpenGLTexture>
#include <QOpenGLVertexArrayObject>

#include "view/camera.h"
#include "view/piece_scene.h"
#include "view/renderer.h"

namespace rubble::app {

/// The colour (sRGB, 0 to 1) that a model's material shows; bare stone for none.
Vec3 shown_color(const Model& model, int material, const Project& project);

/// Draws the pieces of kits: the triangles and lines of each once on the graphics card, all places of it in
/// one call. Needs its context current in every call.
class PieceRenderer : protected QOpenGLFunctions_3_3_Core {
public:
    PieceRenderer() = default;
    PieceRenderer(const PieceRenderer&) = delete;
    PieceRenderer& operator=(const PieceRenderer&) = delete;

    void initialize();
    /// Frees what it holds on the graphics card.
    void release();
    /// `scene` may be null. Colours of the project's materials are those of `project`.
    void draw(const std::shared_ptr<const PieceScene>& scene, const Project& project, const Camera& camera,
              const Renderer::Look& look);
    /// Sends what differs from the scene before.
    void send(const std::shared_ptr<const PieceScene>& scene, const Project& project);
    /// Draws how deep what was sent lies; no colours.
    void draw_depth(const glm::mat4& view);

private:
    struct Batch {
        QOpenGLVertexArrayObject array;
        QOpenGLBuffer buffer{QOpenGLBuffer::VertexBuffer};
        int count = 0;
    };
    /// Faces of one picture.
    struct Faces {
        std::unique_ptr<Batch> batch;
        std::shared_ptr<QOpenGLTexture> texture; ///< null: colour alone
    };
    struct OnCard {
        std::shared_ptr<const Piece> piece;
        std::vector<Material> materials; ///< of the project that it was made with
        std::vector<Faces> faces;
        Batch lines;
        QOpenGLBuffer places{QOpenGLBuffer::VertexBuffer};
        int count = 0; ///< of places
        uint64_t drawn = 0;
    };
    OnCard& on_card(const std::shared_ptr<const Piece>& piece, const Project& project);
    void add_faces(OnCard& card, const PieceBody& body, const Project& project);
    void add_places(Batch& batch, OnCard& card, int first_location);
    void set_places(const PieceScene& scene, const Project& project);
    std::shared_ptr<QOpenGLTexture> texture_of(const std::shared_ptr<const PictureBytes>& picture);

    QOpenGLShaderProgram faces_program_, lines_program_, depth_program_;
    std::map<const Piece*, std::unique_ptr<OnCard>> cards_;
    std::map<const PictureBytes*,
             std::pair<std::shared_ptr<const PictureBytes>, std::weak_ptr<QOpenGLTexture>>>
        textures_;
    std::shared_ptr<const PieceScene> sent_;
    uint64_t frame_ = 0;
};

} // namespace rubble::app
