#pragma once

#include <array>
#include <cstdint>
#include <functional>
#include <memory>
#include <optional>
#include <vector>

#include "build/surface.h"
#include "check/check.h"

namespace rubble::app {

/// What the graphics card is given: triangles and lines in floating point, made off the interface thread. In
/// chunks of some brushes each, so that an edit makes and sends anew only what it touches.
struct SceneMesh {
    struct Vertex {
        float at[3];
        int16_t normal[4]; ///< parts of 32767; the last is not used
        uint8_t color[3];
        uint8_t layer;  ///< of the materials' pictures; `no_layer`: none
        float rise;     ///< of an upright face: how high it stands, metres; of others below 0
        float place[2]; ///< on the picture
        static constexpr uint8_t no_layer = 255;
    };
    struct Line {
        float at[3];
    };
    struct Chunk {
        std::vector<Vertex> faces;
        std::vector<Line> edges; ///< pairs: where faces meet at an angle
    };
    std::vector<std::shared_ptr<const Chunk>> chunks;
    std::vector<Vertex> decals;  ///< triangles, in the order in which they lie over each other
    std::vector<Line> cut_edges; ///< pairs: the dashes of the outlines of cuts
};

enum class TintKind { reached = 0, no_return = 1, low = 2, asked = 3 };
/// From this number on kinds are the bands in which a level opens up.
inline constexpr int first_band_kind = 10;

/// The ground as the character sees it.
struct TintMesh {
    struct Vertex {
        float at[3];
        float kind; ///< a TintKind
    };
    std::vector<Vertex> triangles;
};

/// Which brushes, in their order, are not to be seen: hidden themselves, by their group or by their layer.
std::vector<bool> hidden_brushes(const Level& level);

/// The tint that their layers give bare brushes, in their order; empty where no layer has one.
using BrushTints = std::vector<std::optional<std::array<uint8_t, 3>>>;
BrushTints brush_tints(const Level& level);

/// Copies of those brushes, in their order, on which pictures lie otherwise than over the whole level; null
/// for the others, and empty where all are.
using DressedBrushes = std::vector<std::shared_ptr<const Brush>>;
DressedBrushes dressed_brushes(const Project& project, const Level& level);

/// The materials that have a picture of their colour, in the order of the layers that show them.
std::vector<const Material*> pictured_materials(const Project& project);

/// How many dots each of their pictures has across.
std::vector<float> picture_dots(const Project& project);

/// Makes the mesh of one level after the other; chunks in which nothing changed stay the same objects.
class SceneMesher {
public:
    /// `tints` and `dressed` may be empty.
    SceneMesh build(const Project& project, const build::Surface& surface, const std::vector<bool>& hidden,
                    const BrushTints& tints = {}, const DressedBrushes& dressed = {});

private:
    /// What a brush's part of the picture was made from.
    struct Source {
        std::shared_ptr<const build::BrushSurface> surface;
        bool hidden;
        std::optional<std::array<uint8_t, 3>> tint;
        std::shared_ptr<const Brush> dressed; ///< as in `DressedBrushes`
        bool operator==(const Source& other) const {
            return surface == other.surface && hidden == other.hidden && tint == other.tint &&
                   (dressed == other.dressed || (dressed && other.dressed && *dressed == *other.dressed));
        }
    };
    struct Kept {
        std::vector<Source> sources;
        std::shared_ptr<const SceneMesh::Chunk> chunk;
    };
    std::vector<Kept> kept_;
    std::vector<Material> materials_; ///< that they were made with
};

/// What the decals of a level cover of its surface.
std::vector<SceneMesh::Vertex> decal_mesh(const Project& project, const Level& level,
                                          const build::Surface& surface);
/// The edges of the columns that the character collides with, as pairs.
std::vector<SceneMesh::Line> collision_lines(const motion::World& world);
/// The outlines of the cuts that are to be seen, in dashes.
std::vector<SceneMesh::Line> cut_outlines(const Level& level, const std::vector<bool>& hidden);
/// Of the ground that is reached: where `shade_of` gives a shade to a place of a fragment, that instead of
/// what is usual. It is asked for squares of half a metre to two metres, the smaller the less ground there
/// is.
using ShadeOf = std::function<std::optional<float>(int fragment, const Vec3& at)>;
TintMesh tint_mesh(const check::CheckResult& result, const std::vector<bool>& hidden,
                   const ShadeOf& shade_of = {});

} // namespace rubble::app
