#include "fittings_kit.h"

namespace rubble::demo {

namespace {

const char* const k_wood = "wood";
const char* const k_iron = "iron";
const char* const k_rope = "rope";
const char* const k_tin = "tin";
const char* const k_glass = "glass";

Brush round(Shape shape, double wide, double high, const Vec3& at, const char* material,
            Effect effect = Effect::fill) {
    Brush brush;
    brush.shape = shape, brush.effect = effect, brush.sides = 16;
    brush.material = {material};
    brush.size = {wide, wide, high}, brush.place.at = at;
    return brush;
}

Modelling tub() {
    Modelling m(k_wood);
    m.add(round(Shape::cylinder, 1.0, 0.7, {0, 0, 0}, k_wood));
    m.add(round(Shape::cylinder, 0.86, 0.7, {0, 0, 0.1}, "", Effect::cut));
    m.add(round(Shape::cylinder, 1.03, 0.06, {0, 0, 0.12}, k_iron));
    m.add(round(Shape::cylinder, 1.03, 0.06, {0, 0, 0.5}, k_iron));
    m.add(round(Shape::cylinder, 0.86, 0.7, {0, 0, 0.1}, "", Effect::cut));
    return m;
}

Modelling barrel() {
    Modelling m(k_wood);
    m.add(round(Shape::cylinder, 0.56, 0.9, {0, 0, 0}, k_wood));
    m.add(round(Shape::cylinder, 0.64, 0.5, {0, 0, 0.2}, k_wood));
    for (const double at : {0.08, 0.24, 0.6, 0.76})
        m.add(round(Shape::cylinder, 0.66, 0.05, {0, 0, at}, k_iron));
    m.add(round(Shape::cylinder, 0.5, 0.1, {0, 0, 0.86}, "", Effect::cut));
    return m;
}

/// Slats round an open box.
Modelling fish_crate() {
    constexpr double k_long = 0.8, k_wide = 0.5, k_high = 0.34, k_slat = 0.02;
    Modelling m(k_wood);
    m.fill({-k_long / 2, -k_wide / 2, 0}, {k_long / 2, k_wide / 2, k_slat});
    for (const double z : {0.02, 0.14, 0.26}) {
        const double top = z + 0.08;
        m.fill({-k_long / 2, -k_wide / 2, z}, {k_long / 2, -k_wide / 2 + k_slat, top});
        m.fill({-k_long / 2, k_wide / 2 - k_slat, z}, {k_long / 2, k_wide / 2, top});
        m.fill({-k_long / 2, -k_wide / 2, z}, {-k_long / 2 + k_slat, k_wide / 2, top});
        m.fill({k_long / 2 - k_slat, -k_wide / 2, z}, {k_long / 2, k_wide / 2, top});
    }
    for (const double x : {-1.0, 1.0})
        for (const double y : {-1.0, 1.0}) {
            const Vec3 at(x * (k_long / 2 - 0.04), y * (k_wide / 2 - 0.04), 0);
            m.fill(at - Vec3(0.03, 0.03, 0), at + Vec3(0.03, 0.03, k_high));
        }
    return m;
}

Modelling pallet() {
    Modelling m(k_wood);
    for (const double y : {-0.36, 0.0, 0.36}) m.fill({-0.6, y - 0.04, 0}, {0.6, y + 0.04, 0.1});
    for (int i = 0; i < 7; ++i) {
        const double x = -0.6 + 0.18 * i;
        m.fill({x, -0.4, 0.1}, {x + 0.12, 0.4, 0.125});
    }
    return m;
}

Modelling bucket() {
    Modelling m(k_tin);
    m.add(round(Shape::cylinder, 0.26, 0.24, {0, 0, 0}, k_tin));
    m.add(round(Shape::cylinder, 0.28, 0.02, {0, 0, 0.22}, k_tin));
    m.add(round(Shape::cylinder, 0.23, 0.3, {0, 0, 0.02}, "", Effect::cut));
    return m;
}

/// Rings over each other, each a little narrower.
Modelling rope_coil() {
    Modelling m(k_rope);
    for (int ring = 0; ring < 3; ++ring) {
        m.add(round(Shape::cylinder, 0.72 - 0.06 * ring, 0.07, {0, 0, 0.07 * ring}, k_rope));
    }
    m.add(round(Shape::cylinder, 0.34, 0.3, {0, 0, 0.01}, "", Effect::cut));
    return m;
}

/// A sack truck as it stands: two wheels, a plate, two bars.
Modelling trolley() {
    Modelling m(k_iron);
    m.fill({-0.25, -0.35, 0.03}, {0.25, -0.05, 0.06});
    for (const double x : {-0.22, 0.18}) m.fill({x, -0.05, 0.03}, {x + 0.04, 0, 1.25});
    for (const double z : {0.3, 0.65, 1.0, 1.2}) m.fill({-0.22, -0.05, z}, {0.22, 0, z + 0.04});
    for (const double x : {-0.28, 0.24}) {
        Brush wheel = round(Shape::cylinder, 0.24, 0.04, {x, 0.06, 0.12}, k_iron);
        wheel.place.rotation = Rotation{0, 0.7071067811865476, 0, 0.7071067811865476};
        m.add(wheel);
    }
    return m;
}

/// Hangs from where it is put, below it.
Modelling hanging_lamp() {
    Modelling m(k_tin);
    m.fill({-0.01, -0.01, -0.6}, {0.01, 0.01, 0});
    Brush shade = round(Shape::cone, 0.5, 0.22, {0, 0, -0.8}, k_tin);
    m.add(shade);
    m.add(round(Shape::ball, 0.16, 0.16, {0, 0, -0.9}, k_glass));
    return m;
}

Modelling post_box() {
    Modelling m(k_tin);
    m.fill({-0.2, -0.15, 0.9}, {0.2, 0.15, 1.4});
    m.fill({-0.04, -0.04, 0}, {0.04, 0.04, 0.9}, k_iron);
    m.fill({-0.2, -0.2, 0}, {0.2, 0.2, 0.04}, k_iron);
    m.cut({-0.14, -0.2, 1.26}, {0.14, -0.1, 1.3});
    return m;
}

Project looks() {
    Project project;
    project.materials = {{{k_wood}, "Wood", {0x9A, 0x7B, 0x55}, 0.8, {}},
                         {{k_iron}, "Iron", {0x57, 0x5B, 0x5E}, 0.5, {}},
                         {{k_rope}, "Rope", {0xB5, 0x9C, 0x6A}, 0.9, {}},
                         {{k_tin}, "Tin", {0x8F, 0xA3, 0xA6}, 0.35, {}},
                         {{k_glass}, "Glass", {0xF7, 0xEE, 0xC8}, 0.2, {}}};
    return project;
}

} // namespace

Result<ModelledKit> fittings_kit() {
    struct Row {
        const char *id, *name;
        Modelling model;
        PieceCollisionKind met;
    };
    using enum PieceCollisionKind;
    const Row rows[] = {{"tub", "Tub", tub(), box},
                        {"barrel", "Barrel", barrel(), box},
                        {"fish_crate", "Fish crate", fish_crate(), box},
                        {"pallet", "Pallet", pallet(), box},
                        {"trolley", "Trolley", trolley(), box},
                        {"post_box", "Post box", post_box(), box},
                        {"bucket", "Bucket", bucket(), none},
                        {"rope_coil", "Coil of rope", rope_coil(), none},
                        {"hanging_lamp", "Hanging lamp", hanging_lamp(), none}};
    ModelledKit out;
    out.kit.file = "kits/fittings/kit.json", out.kit.name = "Fittings";
    const Project project = looks();
    for (const Row& row : rows) {
        Piece piece;
        piece.id = row.id, piece.name = row.name, piece.seat = PieceSeat::free;
        piece.collision.kind = row.met;
        if (const auto done = add_piece(out, project, std::move(piece), row.model); !done)
            return tl::unexpected(done.error());
    }
    return out;
}

} // namespace rubble::demo
