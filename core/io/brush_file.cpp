#include "io/brush_file.h"

#include <array>
#include <cmath>
#include <optional>
#include <set>

#include "io/mass_file.h"
#include "io/material_file.h"
#include "io/names.h"
#include "level/shapes/shape_kind.h"
#include "level/turning.h"

namespace rubble::io {

namespace {

constexpr std::array k_effects{Name<Effect>{"fill", Effect::fill}, Name<Effect>{"cut", Effect::cut}};
constexpr std::array k_arches{Name<ArchKind>{"round", ArchKind::round},
                              Name<ArchKind>{"pointed", ArchKind::pointed},
                              Name<ArchKind>{"flat", ArchKind::flat}};
Shape shape_in(Reader& in) {
    const std::string key = in.text("shape", "box");
    for (const ShapeKind& kind : shape_kinds())
        if (key == kind.key) return kind.shape;
    std::string keys;
    for (const ShapeKind& kind : shape_kinds()) keys += (keys.empty() ? "" : ", ") + std::string(kind.key);
    in.fail("shape", "one of " + keys);
    return Shape::box;
}

std::optional<BoxSide> side_of(const std::string& key) {
    for (int side = 0; side < box_sides; ++side)
        if (key == side_key(BoxSide(side))) return BoxSide(side);
    return {};
}

int whole(Reader& in, const std::string& key, int otherwise, int least, int most) {
    const double value = in.number(key, otherwise);
    if (value == std::floor(value) && value >= least && value <= most) return int(value);
    in.fail(key, "a whole number from " + std::to_string(least) + " to " + std::to_string(most));
    return otherwise;
}

/// A list of lists of numbers, each as long as a Point; nothing, and false, where it is none.
template <class Point> bool read_points(const Json& list, std::vector<Point>& out) {
    if (!list.is_array() || list.size() > most_points) return false;
    for (const Json& row : list) {
        Point p(0);
        if (!row.is_array() || int(row.size()) != Point::length()) return false;
        for (int i = 0; i < Point::length(); ++i) {
            const Json& part = row[size_t(i)];
            if (!part.is_number() || !std::isfinite(part.get<double>())) return false;
            p[i] = part.get<double>();
        }
        out.push_back(p);
    }
    return true;
}

bool read_faces(const Json& list, size_t corners, std::vector<std::vector<int>>& out) {
    if (list.size() > 2 * most_points) return false;
    for (const Json& row : list) {
        if (!row.is_array() || row.size() < 3 || row.size() > corners) return false;
        std::vector<int> face;
        for (const Json& part : row) {
            if (!part.is_number_integer()) return false;
            const auto index = part.get<int64_t>();
            if (index < 0 || index >= int64_t(corners)) return false;
            face.push_back(int(index));
        }
        out.push_back(std::move(face));
    }
    return true;
}

/// The numbers by which a body's faces are named; whole ones, each once.
void read_face_numbers(Reader& in, Brush& brush) {
    std::set<int> seen;
    for (const Json& part : in.list("face_numbers")) {
        const auto number = part.is_number_integer() ? part.get<int64_t>() : -1;
        if (number < 0 || number > most_face_number || !seen.insert(int(number)).second)
            return in.fail("face_numbers", "whole numbers from 0, each once");
        brush.face_numbers.push_back(int(number));
    }
    if (!brush.face_numbers.empty() && brush.face_numbers.size() != brush.faces.size())
        return in.fail("face_numbers", "as many numbers as faces");
    const int least = seen.empty() ? 0 : *seen.rbegin() + 1;
    brush.next_face_number = whole(in, "next_face_number", least, least, most_face_number + 1);
}

void read_values(Reader& in, Brush& brush) {
    if (brush.shape == Shape::arch) brush.arch = choice(in, "arch", k_arches, "round");
    for (const ShapeNumber& number : kind_of(brush.shape).numbers) {
        if (number.used && !number.used(brush)) continue;
        if (number.count)
            brush.*number.count = whole(in, number.key, brush.*number.count, number.least, number.most);
        else
            brush.*number.measure = in.number(number.key, brush.*number.measure);
    }
    if (brush.shape == Shape::wall_run) brush.closed = in.flag("closed", false);
    if (!has_points(brush.shape)) return;
    if (brush.shape == Shape::mass) {
        brush.cells = read_mass(in);
        return;
    }
    if (brush.shape == Shape::body) {
        if (!read_points(in.list("points"), brush.corners))
            in.fail("points", "at most " + std::to_string(most_points) + " places of three numbers");
        if (!read_faces(in.list("faces"), brush.corners.size(), brush.faces))
            in.fail("faces", "lists of at least three indices of points");
        read_face_numbers(in, brush);
        return;
    }
    if (!read_points(in.list("points"), brush.points))
        in.fail("points", "at most " + std::to_string(most_points) + " places of two numbers");
    brush.size.z = in.number("height", 1);
    for (const Json& ring : in.list("holes"))
        if (brush.holes.emplace_back(); !read_points(ring, brush.holes.back()))
            in.fail("holes", "lists of places of two numbers, clockwise");
}

/// What faces look like; of older files by the sides they look to, which is given back.
std::map<BoxSide, MaterialId> read_looks(Reader& in, Brush& brush) {
    const Json& looks = in.object("looks");
    for (const auto& [key, value] : looks.items()) {
        const auto face = face_name_from(key);
        if (face && value.is_string()) { // as older files have it
            brush.looks[*face] = {{value.get<std::string>()}, {}};
        } else if (face && value.is_object()) {
            Reader look(value, in.place(), in.path_of("looks") + "/" + key);
            brush.looks[*face] = read_look(look);
            in.take_error(look);
        } else {
            in.fail("looks", "faces such as top, side:3 or face:3 with what they look like");
        }
    }
    std::map<BoxSide, MaterialId> of_sides;
    const Json& sides = in.object("side_materials");
    for (const auto& [key, value] : sides.items()) {
        if (const auto side = side_of(key); side && value.is_string())
            of_sides[*side] = {value.get<std::string>()};
        else
            in.fail("side_materials", "sides left, right, near, away, bottom, top with material ids");
    }
    return of_sides;
}

/// What a problem that a brush has asks for instead.
std::string wanted(const std::string& problem, const Brush& brush) {
    if (problem == "size")
        return kind_of(brush.shape).round ? "three sizes from 0.00001 to 1000 m, across at least 0.01 m"
                                          : "three sizes from 0.00001 to 1000 m";
    if (problem == "at") return "a place within 10000 m";
    if (problem == "rotation") return "a rotation of unit length";
    if (problem == "cells") return "at least one cell";
    if (problem == "cell_m") return "a cell size from 1/64 to 8 m";
    if (brush.shape == Shape::pipe && problem == "thickness_m")
        return "a tube that leaves the middle of its bend free, and a wall that leaves a bore";
    if (problem == "angle_deg")
        return "an angle to 1440, or -1440, in which a step turns by 0.5 to 120 degrees";
    if (problem == "inner_part") return "a part from 0 to 0.95";
    if (problem == "thickness_m")
        return brush.shape == Shape::arch ? "a thickness that leaves an opening" : "a thickness from 0.01 m";
    if (problem == "points")
        return brush.shape == Shape::outline
                   ? "at least three points, counter-clockwise, whose edges do not cross"
                   : "points at least 0.01 m apart and within 1000 m";
    if (problem == "faces")
        return "faces of a closed body that do not meet elsewhere than in edges, each seen counter-clockwise "
               "from outside";
    if (problem == "shell_m") return "a thickness of 0, or one that leaves a hollow";
    return "a number that fits the others";
}

template <class Points> Json points_json(const Points& points) {
    Json list = Json::array();
    for (const auto& p : points) {
        Json row = Json::array();
        for (int i = 0; i < p.length(); ++i) row.push_back(p[i]);
        list.push_back(row);
    }
    return list;
}

void put_values(const Brush& brush, Json& json) {
    if (brush.shape == Shape::outline || brush.shape == Shape::wall_run) {
        json["points"] = points_json(brush.points);
        json["height"] = brush.size.z;
        if (!brush.holes.empty()) {
            json["holes"] = Json::array();
            for (const auto& hole : brush.holes) json["holes"].push_back(points_json(hole));
        }
        if (brush.closed) json["closed"] = true;
    } else if (brush.shape == Shape::mass) {
        put_mass(brush.cells, json);
    } else if (brush.shape == Shape::body) {
        json["points"] = points_json(brush.corners);
        json["faces"] = brush.faces;
        if (!brush.face_numbers.empty()) json["face_numbers"] = brush.face_numbers;
        if (brush.next_face_number > 0) json["next_face_number"] = brush.next_face_number;
    } else {
        json["size"] = to_json(brush.size);
    }
    if (brush.shape == Shape::arch) json["arch"] = key_of(k_arches, brush.arch);
    for (const ShapeNumber& number : kind_of(brush.shape).numbers) {
        if (number.used && !number.used(brush)) continue;
        if (number.count)
            json[number.key] = brush.*number.count;
        else
            json[number.key] = brush.*number.measure;
    }
}

} // namespace

Placement read_turn(Reader& in, Placement place, Frame frame) {
    place = with_shown_turn(place, frame, in.number("turn_deg", 0));
    if (in.has("turn_up_deg")) place.turn_deg = in.number("turn_up_deg", 0), place.rotation.reset();
    if (in.has("rotation")) {
        const auto r = in.numbers("rotation", 4, {0, 0, 0, 1});
        place.rotation = Rotation{r[0], r[1], r[2], r[3]};
    }
    return place;
}

void put_turn(Json& json, const Placement& place, Frame frame) {
    const auto deg = shown_turn_deg(place, frame);
    if (deg && with_shown_turn(place, frame, *deg) == place)
        json["turn_deg"] = *deg;
    else if (!place.rotation) // from the side: turned about z, as what looks the other way is
        json["turn_up_deg"] = place.turn_deg;
    else
        json["rotation"] = *place.rotation;
}

Brush read_brush(Reader& in, Frame frame) {
    Brush brush;
    brush.effect = choice(in, "effect", k_effects, "fill");
    brush.shape = shape_in(in);
    brush.place.at = point(in, "at", Vec3(0));
    if (!has_points(brush.shape)) brush.size = point(in, "size", Vec3(1));
    read_values(in, brush);
    brush.place = read_turn(in, brush.place, frame);
    brush.shell_m = in.number("shell_m", 0);
    for (const Json& name : in.list("open_sides")) {
        const auto side = name.is_string() ? side_of(name.get<std::string>()) : std::nullopt;
        if (side)
            brush.open_sides.insert(*side);
        else
            in.fail("open_sides", "sides left, right, near, away, bottom, top");
    }
    brush.within_group = in.flag("within_group", false);
    brush.host = {in.text("opening_of")};
    brush.material = {in.text("material")};
    const std::map<BoxSide, MaterialId> of_sides = read_looks(in, brush);
    if (!in.ok()) return brush;
    if (const std::string problem = problem_of(brush); !problem.empty()) {
        in.fail(problem, wanted(problem, brush));
        return brush;
    }
    brush = measured(std::move(brush));
    for (const auto& [side, material] : of_sides)
        for (const FaceName& face : faces_towards(brush, side)) brush.looks.emplace(face, Look{material, {}});
    return brush;
}

Json brush_json(const Brush& brush, Json json, Frame frame) {
    json["effect"] = key_of(k_effects, brush.effect);
    json["shape"] = kind_of(brush.shape).key;
    json["at"] = to_json(brush.place.at);
    put_values(brush, json);
    put_turn(json, brush.place, frame);
    if (brush.shell_m > 0) json["shell_m"] = brush.shell_m;
    if (!brush.open_sides.empty()) {
        json["open_sides"] = Json::array();
        for (const BoxSide side : brush.open_sides) json["open_sides"].push_back(side_key(side));
    }
    if (brush.within_group) json["within_group"] = true;
    if (!brush.host.empty()) json["opening_of"] = brush.host.value;
    if (!brush.material.empty()) json["material"] = brush.material.value;
    if (!brush.looks.empty()) {
        Json looks = Json::object();
        for (const auto& [face, look] : brush.looks) looks[key_of(face)] = look_json(look);
        json["looks"] = looks;
    }
    return json;
}

} // namespace rubble::io
