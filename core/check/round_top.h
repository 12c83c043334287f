#pragma once

#include "check/ground.h"
#include "motion/world.h"

namespace rubble::check {

/// The tops of one convex body, one at least of which is walked, taken as one: the body's upper side is
/// concave, and so is the height of the feet over it, the highest that the disc feels. A ball or a cone is
/// one place to walk, however many facets it has.
struct RoundTop {
    struct Facet {
        geometry::ConvexArea area;
        Box2 box;
        motion::HeightPlane height;
        motion::HeightPlane feet; ///< of a body that rests on the facet's inside
    };
    std::vector<Facet> walked, steep;
    /// None of these is lower than the feet, and one is as high nearly everywhere: over the walked facets,
    /// over the ridges between them and over the highest point.
    std::vector<motion::HeightPlane> over_feet;
    geometry::ConvexArea footprint; ///< around those that are walked
    std::vector<int> columns;       ///< of the world, those that are walked
    double radius = 0;
    double highest = 0;  ///< of the body
    double overhang = 0; ///< how far the middle may stand beyond the footprint

    /// The feet's height over a place; that of the nearest facet where the disc touches none.
    double feet_at(Vec2 p) const;
    /// Whether the feet keep a height over some places: over its highest point or ridge, and a level top is
    /// that.
    bool has_level_part_at(double height) const;
};

/// The round top of the body that a column of the world belongs to; none where it has but one top or none is
/// walked.
std::shared_ptr<const RoundTop> round_top_of(const motion::World& world, int column,
                                             const Character& character);

/// The places around the footprint where the body rests on a steep facet, each convex; they may overlap.
std::vector<geometry::ConvexArea> steep_places(const RoundTop& top, const geometry::ConvexArea& around);

/// The places of `grown`, a column grown by the body's radius, where the column keeps a body of `height` from
/// standing on the round top; each convex, they may overlap. The feet are nowhere lower than `least`.
std::vector<geometry::ConvexArea> obstacles(const RoundTop& top, double least, const motion::Column& column,
                                            const geometry::ConvexArea& grown, double height);

/// A convex body of several columns that stands in the way, taken as one: above it is concave, below convex.
struct RoundBody {
    geometry::ConvexArea grown; ///< its outline, grown by the radius
    /// A disc of the radius feels nothing of it higher than each of `over`, nor lower than each of `under`.
    std::vector<motion::HeightPlane> over, under;
    double low = 0, high = 0;
};

/// The body whose columns begin with one of the world.
RoundBody round_body_of(const motion::World& world, int first_column, double radius, double grown_by);

/// The same places, of those `within` an area, for a body of several columns: one for each slope that the
/// round top has there, not for each pair.
std::vector<geometry::ConvexArea> obstacles(const RoundTop& top, double least,
                                            const geometry::ConvexArea& within, const RoundBody& body,
                                            double height);

/// The places of a level plot at the height of the round top's level part that are the round top's as well.
geometry::ConvexArea shared_with_level(const RoundTop& top, const geometry::ConvexArea& plot, double height);

/// The part of `area` where `upper` is above `lower` by more than `by`.
geometry::ConvexArea where_above(const geometry::ConvexArea& area, const motion::HeightPlane& upper,
                                 const motion::HeightPlane& lower, double by);

} // namespace rubble::check
