#pragma once

#include <memory>
#include <optional>
#include <vector>

#include "check/check.h"
#include "io/export_parts.h"
#include "view/picking.h"
#include "view/piece_scene.h"
#include "view/scene_mesh.h"

namespace rubble::app {

/// A level built and checked, ready to be drawn. Parts are shared and never change.
struct Built {
    std::shared_ptr<const build::Solid> solid;
    std::shared_ptr<const build::Surface> surface;
    std::shared_ptr<const PickBoxes> boxes; ///< of the surface
    std::shared_ptr<const SceneMesh> mesh;
    std::shared_ptr<const PieceScene> pieces;
    std::shared_ptr<const check::CheckResult> check; ///< null until the first check is done
    uint64_t check_version = 0;                      ///< of the level that `check` speaks of
    std::vector<bool> hidden;                        ///< for each of the solid's brushes
    std::shared_ptr<const TintMesh> tint;
    io::ExportCounts export_counts; ///< of the level that `check` speaks of
    uint64_t version = 0;

    /// What a ray meets first of what is seen, below a height.
    std::optional<Hit> met_by(const Ray& ray, double cut_z) const;
};

} // namespace rubble::app
