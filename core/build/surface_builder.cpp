#include "build/surface_builder.h"

#include <algorithm>
#include <unordered_set>

#include "base/flat_index.h"
#include "base/parallel.h"
#include "build/closed_part.h"
#include "geometry/space_order.h"

namespace rubble::build {

/// A part of the solid with its seams and what became of it.
struct SurfaceBuilder::Part {
    std::shared_ptr<const SolidPart> part;
    int brush = -1;
    Seams seams;
    std::shared_ptr<const SurfacePart> closed;
    bool stale = true; ///< new, or listed to be closed again
};

/// What came and went between two solids.
struct SurfaceBuilder::Change {
    std::vector<Part*> added;
    std::vector<std::unique_ptr<Part>> removed;
    std::vector<int> brushes; ///< whose parts are not those they were
    bool all = false;         ///< another number of brushes: every place may be another's
};

namespace {

constexpr size_t k_chunk = 2;

/// The places where two lists of shared things differ.
template <class T, class F> void for_differences(const SharedList<T>& a, const SharedList<T>& b, F visit) {
    for (size_t i = b.next_not_shared(a, 0); i < b.size(); i = b.next_not_shared(a, i + 1))
        if (a[i] != b[i]) visit(i);
}

/// The lines along which something is not as it was, by their keys.
class LineChanges {
public:
    explicit LineChanges(size_t expected) : index_(expected) { net_.reserve(expected); }

    void add(const Seams& seams, uint64_t sign) {
        for (size_t i = 0; i < seams.keys().size(); ++i) {
            const uint64_t key = seams.keys()[i];
            const int fresh = int(net_.size());
            const int at = index_.find_or_add(key, fresh, [](int) { return true; });
            if (at == fresh) net_.push_back(0);
            net_[size_t(at)] += sign * seams.lines()[i].hash;
        }
    }
    bool touch(const Seams& seams) const {
        return std::any_of(seams.keys().begin(), seams.keys().end(), [&](uint64_t key) {
            const int at = index_.find(key, [](int) { return true; });
            return at >= 0 && net_[size_t(at)] != 0;
        });
    }

private:
    FlatIndex index_;
    std::vector<uint64_t> net_; ///< hashes of what came, less those of what went
};

} // namespace

SurfaceBuilder::SurfaceBuilder() = default;
SurfaceBuilder::~SurfaceBuilder() = default;
SurfaceBuilder::SurfaceBuilder(SurfaceBuilder&&) noexcept = default;

SurfaceBuilder::Change SurfaceBuilder::change_to(const Solid& solid) {
    Change change;
    change.all = solid.brushes.size() != solid_.brushes.size() || solid.planes != solid_.planes;
    if (change.all) {
        for (int b = 0; b < int(solid.brushes.size()); ++b) change.brushes.push_back(b);
    } else {
        for_differences(solid_.brushes, solid.brushes, [&](size_t b) { change.brushes.push_back(int(b)); });
    }
    // Parts may have gone to another brush's place: those that are anywhere now stay.
    std::unordered_set<const SolidPart*> now;
    for (const int b : change.brushes)
        if (!parts_.empty())
            for (const auto& part : solid.brushes[size_t(b)]->parts) now.insert(part.get());
    auto remove = [&](const BrushSolid& brush) {
        for (const auto& part : brush.parts) {
            if (now.contains(part.get())) continue;
            const auto known = parts_.find(part.get());
            grid_.remove(known->second.get(), part->box);
            change.removed.push_back(std::move(known->second));
            parts_.erase(known);
        }
    };
    if (change.all)
        for (const auto& brush : solid_.brushes) remove(*brush);
    else
        for (const int b : change.brushes) remove(*solid_.brushes[size_t(b)]);
    for (const int b : change.brushes)
        for (const auto& part : solid.brushes[size_t(b)]->parts) {
            std::unique_ptr<Part>& known = parts_[part.get()];
            if (!known) {
                known = std::make_unique<Part>();
                known->part = part;
                change.added.push_back(known.get());
            }
            known->brush = b;
        }
    return change;
}

/// The parts that are new, and those on whose lines something changed.
std::vector<SurfaceBuilder::Part*> SurfaceBuilder::stale_parts(const Change& change) {
    std::vector<Part*> stale = change.added;
    if (stale.size() == parts_.size()) return stale;
    size_t count = 0;
    for (const Part* part : change.added) count += part->seams.keys().size();
    for (const auto& part : change.removed) count += part->seams.keys().size();
    LineChanges lines(count);
    for (const Part* part : change.added) lines.add(part->seams, 1);
    for (const auto& part : change.removed) lines.add(part->seams, uint64_t(-1));
    auto look_around = [&](const Box3& box) {
        grid_.for_touching(box, [&](Part* part) {
            if (part->stale || !lines.touch(part->seams)) return;
            part->stale = true;
            stale.push_back(part);
        });
    };
    for (const Part* part : change.added)
        if (!part->part->box.empty()) look_around(part->part->box);
    for (const auto& part : change.removed)
        if (!part->part->box.empty()) look_around(part->part->box);
    return stale;
}

Surface SurfaceBuilder::build(const Solid& solid) {
    if (!solid.planes) return {};
    if (parts_.empty()) { // cells of about the usual size of what will be in them
        double sum = 0;
        for (const auto& brush : solid.brushes) {
            const Vec3 size = brush->box.high - brush->box.low;
            sum += std::max({size.x, size.y, size.z});
        }
        grid_ = geometry::SpaceGrid<Part*>(
            std::max(0.25, std::min(16.0, sum / double(std::max<size_t>(solid.brushes.size(), 1)))));
    }
    Change change = change_to(solid);
    geometry::sort_along_curve(change.added, [](const Part* part) { return part->part->box.low; });
    // One thread enters the new parts into the grid while the others find seams.
    parallel_for(
        change.added.size() + 1,
        [&](size_t i) {
            if (i == 0)
                for (Part* part : change.added) grid_.add(part, part->part->box);
            else
                change.added[i - 1]->seams = Seams(change.added[i - 1]->part->pieces, *solid.planes);
        },
        k_chunk);
    const std::vector<Part*> stale = stale_parts(change);
    parallel_for(
        stale.size(),
        [&](size_t i) {
            Part& part = *stale[i];
            boost::container::small_vector<SeamedPart, 48> neighbours;
            if (!part.part->box.empty())
                grid_.for_touching(part.part->box, [&](Part* other) {
                    if (other != &part) neighbours.push_back({other->part.get(), &other->seams});
                });
            part.closed = std::make_shared<const SurfacePart>(closed(
                {part.part.get(), &part.seams}, {neighbours.data(), neighbours.size()}, *solid.planes));
        },
        k_chunk);

    std::vector<int> brushes = change.brushes;
    for (Part* part : stale) brushes.push_back(part->brush), part->stale = false;
    std::sort(brushes.begin(), brushes.end());
    brushes.erase(std::unique(brushes.begin(), brushes.end()), brushes.end());
    const auto surface_of_brush = [&](int b) {
        BrushSurface out;
        for (const auto& part : solid.brushes[size_t(b)]->parts) out.push_back(parts_.at(part.get())->closed);
        return std::make_shared<const BrushSurface>(std::move(out));
    };
    if (change.all) {
        std::vector<std::shared_ptr<const BrushSurface>> all(solid.brushes.size());
        parallel_for(
            all.size(), [&](size_t b) { all[b] = surface_of_brush(int(b)); }, k_chunk);
        surface_.brushes = SharedList(all);
    } else {
        for (const int b : brushes) surface_.brushes.set(size_t(b), surface_of_brush(b));
    }
    solid_ = solid;
    return surface_;
}

Surface surface_of(const Solid& solid) { return SurfaceBuilder().build(solid); }

} // namespace rubble::build
