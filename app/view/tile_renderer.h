#pragma once

#include <map>
#include <memory>

#include <QOpenGLFunctions_3_3_Core>
#include <QOpenGLShaderProgram>
#include <QOpenGLVertexArrayObject>

#include "level/level.h"
#include "view/camera.h"

namespace rubble::app {

/// Draws layers of tiles, and pictures that are placed freely. The cells themselves are textures of numbers,
/// in pages, and a sheet's picture is read texel by texel: so there is no blur and no neighbour's colour at a
/// tile's edge at any zoom, a frame is a few quads however large the level is, and an edit sends the chunks
/// that it changed. Needs its context current in every call.
class TileRenderer : protected QOpenGLFunctions_3_3_Core {
public:
    TileRenderer() = default;
    TileRenderer(const TileRenderer&) = delete;
    TileRenderer& operator=(const TileRenderer&) = delete;

    void initialize();
    /// Frees what it holds on the graphics card.
    void release();
    /// The layers and placed pictures of a level that are not hidden, those behind first, each at its depth.
    /// With `moves` they follow the camera as far as their parallax says.
    void draw(const Level& level, const Camera& camera, bool moves);

private:
    /// Cells of 512 columns and rows as the graphics card has them.
    struct Page {
        unsigned texture = 0;
    };
    struct LayerPages {
        TileGrid sent;
        std::map<std::pair<int, int>, Page> pages; ///< by column and row of pages
        uint64_t drawn = 0;
    };
    struct SheetTextures {
        std::shared_ptr<const TileSheet> of;
        unsigned picture = 0, places = 0; ///< where on the picture each number lies
        uint64_t drawn = 0;
    };

    void send(LayerPages& layer, const TileGrid& grid);
    Page& page_at(LayerPages& layer, std::pair<int, int> at);
    const SheetTextures* textures_of(const std::shared_ptr<const TileSheet>& sheet);
    void draw_layer(const Level& level, const TileLayer& layer, const LayerPages& pages, const Vec3& shift);
    void draw_picture(const PlacedPicture& picture, const Vec3& shift);
    void drop_unused();

    QOpenGLShaderProgram program_, picture_program_;
    QOpenGLVertexArrayObject nothing_;
    std::map<LayerId, LayerPages> layers_;
    std::map<const TileSheet*, SheetTextures> sheets_;
    uint64_t frame_ = 0;
};

/// The layers of tiles that are seen, by their places among the level's, those behind first.
std::vector<size_t> tile_layers_by_depth(const Level& level);

} // namespace rubble::app
