#include "cold_store_kit.h"

#include "build/joints.h"
#include "edit/pieces.h"
#include "modelling.h"

namespace rubble::demo {

namespace {

/// Sizes of the kit (metres): walls, floors and ceilings reach into the cell of the module.
constexpr double k_side = 5, k_storey = 4, k_wall = 0.25, k_floor = 0.2, k_room = 3.6;

const char* const k_panel = "panel";
const char* const k_ground = "ground";
const char* const k_metal = "metal";

/// A cell of a passage, open to the sides that are named: l, r, n, a.
Modelling passage(const std::string& open) {
    Modelling m(k_panel);
    m.fill({0, 0, -k_floor}, {k_side, k_side, k_storey - k_floor});
    m.cut({k_wall, k_wall, 0}, {k_side - k_wall, k_side - k_wall, k_room});
    for (const char side : open) {
        Vec3 low(k_wall, k_wall, 0), high(k_side - k_wall, k_side - k_wall, k_room);
        (side == 'l'   ? low.x
         : side == 'n' ? low.y
         : side == 'r' ? high.x
                       : high.y) = side == 'l' || side == 'n' ? 0 : k_side;
        m.cut(low, high);
    }
    m.fill({0, 0, -k_floor}, {k_side, k_side, 0}, k_ground);
    return m;
}

/// Two storeys joined by a flight of stairs that begins on the left and ends on the right.
Modelling stairs() {
    Modelling m(k_panel);
    m.fill({0, 0, -k_floor}, {k_side, k_side, 2 * k_storey - k_floor});
    m.cut({0, k_wall, 0}, {k_side - k_wall, k_side - k_wall, k_room});
    m.cut({k_wall, k_wall, 0}, {k_side - k_wall, k_side - k_wall, k_storey + k_room});
    m.cut({k_wall, k_wall, k_storey}, {k_side, k_side - k_wall, k_storey + k_room});
    m.fill({0, 0, -k_floor}, {k_side, k_side, 0}, k_ground);
    Brush flight;
    flight.shape = Shape::stairs, flight.steps = 12, flight.material = {k_metal};
    flight.size = {k_side - 0.75, k_side - 2 * k_wall, k_storey};
    flight.place.at = {(0.5 + k_side - 0.25) / 2, k_side / 2, 0};
    m.add(flight);
    m.fill({k_side - 0.25, k_wall, k_storey - k_floor}, {k_side, k_side - k_wall, k_storey}, k_ground);
    return m;
}

/// A wall along an edge of the module, half its thickness to either side.
Modelling wall() {
    Modelling m(k_panel);
    m.fill({0, -k_wall / 2, 0}, {k_side, k_wall / 2, k_storey - k_floor});
    return m;
}

Modelling wall_with_door() {
    Modelling m = wall();
    m.fill({1.65, -k_wall / 2 - 0.05, 0}, {3.35, k_wall / 2 + 0.05, 2.6}, k_metal);
    m.cut({1.8, -k_wall, 0}, {3.2, k_wall, 2.45});
    return m;
}

Modelling wall_with_window() {
    Modelling m = wall();
    m.fill({1.1, -k_wall / 2 - 0.05, 0.9}, {3.9, k_wall / 2 + 0.05, 2.6}, k_metal);
    m.cut({1.25, -k_wall, 1.05}, {3.75, k_wall, 2.45});
    return m;
}

Modelling arch() {
    Modelling m = wall();
    Brush opening;
    opening.effect = Effect::cut, opening.shape = Shape::cylinder, opening.sides = 24;
    opening.size = {3, 3, 1};
    opening.place.at = {k_side / 2, 0.5, 1.6};
    opening.place.rotation = Rotation{0.7071067811865476, 0, 0, 0.7071067811865476}; // lies along y
    m.cut({1, -k_wall, 0}, {4, k_wall, 1.6}).add(opening);
    return m;
}

Modelling corner_pillar() {
    Modelling m(k_panel);
    m.fill({-0.25, -0.25, 0}, {0.25, 0.25, k_storey - k_floor}, k_metal);
    m.fill({-0.35, -0.35, 0}, {0.35, 0.35, 0.3}, k_ground);
    return m;
}

Modelling floor() {
    Modelling m(k_panel);
    m.fill({0, 0, -k_floor}, {k_side, k_side, 0}, k_ground);
    return m;
}

/// The project whose materials the pieces are made of.
Project looks() {
    Project project;
    project.materials = {{{k_panel}, "Panel", {0xD3, 0xDA, 0xDB}, 0.5, {}},
                         {{k_ground}, "Sealed floor", {0x9C, 0xA6, 0xA2}, 0.6, {}},
                         {{k_metal}, "Metal", {0x77, 0x8C, 0x98}, 0.35, {}}};
    return project;
}

} // namespace

Result<ModelledKit> cold_store_kit() {
    struct Row {
        const char *id, *name;
        Modelling model;
        PieceSeat seat;
    };
    const Row rows[] = {{"floor", "Floor", floor(), PieceSeat::cell},
                        {"wall", "Wall", wall(), PieceSeat::edge},
                        {"wall_door", "Wall with door", wall_with_door(), PieceSeat::edge},
                        {"wall_window", "Wall with window", wall_with_window(), PieceSeat::edge},
                        {"wall_arch", "Arch", arch(), PieceSeat::edge},
                        {"pillar", "Corner pillar", corner_pillar(), PieceSeat::corner},
                        {"stairs", "Stairs", stairs(), PieceSeat::cell},
                        {"straight", "Straight", passage("lr"), PieceSeat::cell},
                        {"turn", "Turn", passage("ln"), PieceSeat::cell},
                        {"t", "T", passage("lrn"), PieceSeat::cell},
                        {"crossing", "Crossing", passage("lrna"), PieceSeat::cell},
                        {"dead_end", "Dead end", passage("l"), PieceSeat::cell}};
    ModelledKit out;
    out.kit.file = "kits/cold-store/kit.json", out.kit.name = "Cold Store";
    const Project project = looks();
    for (const Row& row : rows) {
        Piece piece;
        piece.id = row.id, piece.name = row.name, piece.seat = row.seat;
        piece.covers = row.seat == PieceSeat::corner;
        if (const auto done = add_piece(out, project, std::move(piece), row.model); !done)
            return tl::unexpected(done.error());
    }
    out.kit = build::with_joints_found(std::move(out.kit));
    return out;
}

} // namespace rubble::demo
