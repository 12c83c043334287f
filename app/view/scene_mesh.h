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
        float at[3], normal[3], color[3];
        float rise; ///< of an upright face: how high it stands, metres; of others below 0
    };
    struct Line {
        float at[3];
    };
    struct Chunk {
        std::vector<Vertex> faces;
        std::vector<Line> edges; ///< pairs: where faces meet at an angle
    };
    std::vector<std::shared_ptr<const Chunk>> chunks;
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

/// Makes the mesh of one level after the other; chunks in which nothing changed stay the same objects.
class SceneMesher {
public:
    /// `tints` may be empty.
    SceneMesh build(const Project& project, const build::Surface& surface, const std::vector<bool>& hidden,
                    const BrushTints& tints = {});

private:
    /// What a brush's part of the picture was made from.
    struct Source {
        std::shared_ptr<const build::BrushSurface> surface;
        bool hidden;
        std::optional<std::array<uint8_t, 3>> tint;
        bool operator==(const Source&) const = default;
    };
    struct Kept {
        std::vector<Source> sources;
        std::shared_ptr<const SceneMesh::Chunk> chunk;
    };
    std::vector<Kept> kept_;
    std::vector<Material> materials_; ///< that they were made with
};

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
