#include "level/face_name.h"

#include <algorithm>
#include <array>
#include <charconv>
#include <cmath>

#include "base/tolerance.h"
#include "level/brush_shape.h"
#include "level/face_mesh.h"

namespace rubble {

namespace {

constexpr std::array k_parts{"left", "right", "near", "away", "bottom", "top", "side", "face"};
const std::string k_inner = "inner/";

constexpr double k_no_area_m2 = 1e-9;

/// A face with what is asked of it again and again.
struct Flat {
    Vec3 normal{0};
    double offset = 0, area = 0;
    std::vector<Vec3> points;
    std::vector<FaceMesh::Loop> pieces; ///< convex ones
};

Flat flat_of(const NamedFace& face) {
    FaceMesh::Loop loop(face.corners.size());
    for (size_t i = 0; i < loop.size(); ++i) loop[i] = int(i);
    const Vec3 sum = area_vector(face.corners, loop);
    Flat out;
    out.area = glm::length(sum);
    if (out.area < k_no_area_m2) return out;
    out.normal = sum / out.area;
    out.offset = glm::dot(out.normal, middle_of(face.corners, loop));
    out.points = face.corners;
    out.pieces = convex_pieces(face.corners, loop);
    return out;
}

bool in_one_plane(const Flat& a, const Flat& b) {
    return glm::dot(a.normal, b.normal) > 1 - tolerance::one_way &&
           std::abs(a.offset - b.offset) < tolerance::one_plane_m;
}

/// A convex polygon cut by the plane through an edge of another, which keeps what lies on the inner side.
std::vector<Vec3> kept_inside(const std::vector<Vec3>& polygon, const Vec3& on, const Vec3& inward) {
    std::vector<Vec3> out;
    for (size_t i = 0; i < polygon.size(); ++i) {
        const Vec3 &a = polygon[i], &b = polygon[(i + 1) % polygon.size()];
        const double da = glm::dot(a - on, inward), db = glm::dot(b - on, inward);
        if (da >= 0) out.push_back(a);
        if (da * db < 0) out.push_back(a + (b - a) * (da / (da - db)));
    }
    return out;
}

double area_of(const std::vector<Vec3>& polygon) {
    Vec3 sum(0);
    for (size_t i = 1; i + 1 < polygon.size(); ++i)
        sum += glm::cross(polygon[i] - polygon[0], polygon[i + 1] - polygon[0]);
    return glm::length(sum) / 2;
}

/// The area that two faces of one plane share.
double shared_area(const Flat& a, const Flat& b) {
    double sum = 0;
    for (const auto& piece : a.pieces)
        for (const auto& other : b.pieces) {
            std::vector<Vec3> rest;
            for (const int p : piece) rest.push_back(a.points[size_t(p)]);
            for (size_t i = 0; i < other.size() && rest.size() > 2; ++i) {
                const Vec3 &from = b.points[size_t(other[i])],
                           &to = b.points[size_t(other[(i + 1) % other.size()])];
                rest = kept_inside(rest, from, glm::cross(b.normal, to - from));
            }
            if (rest.size() > 2) sum += area_of(rest);
        }
    return sum;
}

std::vector<Flat> flats_of(const std::vector<NamedFace>& faces) {
    std::vector<Flat> out;
    for (const NamedFace& face : faces) out.push_back(flat_of(face));
    return out;
}

/// The face in the same plane with which one shares the most area; -1 for none.
int most_shared(const Flat& face, const std::vector<Flat>& among) {
    int best = -1;
    double most = k_no_area_m2;
    for (size_t i = 0; i < among.size(); ++i) {
        if (!in_one_plane(face, among[i])) continue;
        if (const double area = shared_area(face, among[i]); area > most) most = area, best = int(i);
    }
    return best;
}

} // namespace

const char* side_key(BoxSide side) { return k_parts[size_t(side)]; }

std::string key_of(const FaceName& name) {
    std::string key = name.inner ? k_inner : "";
    key += k_parts[size_t(name.part)];
    return name.number < 0 ? key : key + ":" + std::to_string(name.number);
}

std::optional<FaceName> face_name_from(const std::string& key) {
    FaceName name;
    name.inner = key.starts_with(k_inner);
    const size_t begin = name.inner ? k_inner.size() : 0, colon = std::min(key.find(':'), key.size());
    const auto part = std::find(k_parts.begin(), k_parts.end(), key.substr(begin, colon - begin));
    if (part == k_parts.end()) return {};
    name.part = FacePart(part - k_parts.begin());
    if (colon == key.size()) return name;
    const char *first = key.data() + colon + 1, *last = key.data() + key.size();
    const auto [end, error] = std::from_chars(first, last, name.number);
    if (error != std::errc() || end != last || name.number < 0) return {};
    return name;
}

std::vector<NamedFace> named_faces(const Brush& brush) {
    Brush unplaced = brush;
    unplaced.place = {};
    return named_faces(body_of(unplaced));
}

std::vector<NamedFace> named_faces(const BrushBody& body) {
    std::vector<NamedFace> out;
    const auto add = [&](const BrushBody::Face& face) {
        NamedFace named{face.side, {}};
        for (const int p : face.loop) named.corners.push_back(geometry::to_metres(body.points[size_t(p)]));
        out.push_back(std::move(named));
    };
    for (const auto& face : body.faces) add(face);
    if (body.faces.empty())
        for (const auto& cell : body.cells)
            for (const auto& face : cell) add(face);
    return out;
}

std::vector<FaceName> faces_towards(const Brush& brush, BoxSide side) {
    std::vector<FaceName> out;
    for (const NamedFace& face : named_faces(brush))
        if (face.side == side && std::find(out.begin(), out.end(), face.side.name) == out.end())
            out.push_back(face.side.name);
    return out;
}

std::vector<int> faces_before(const std::vector<NamedFace>& before, const std::vector<NamedFace>& after) {
    const std::vector<Flat> was = flats_of(before), now = flats_of(after);
    std::vector<int> from(after.size(), -1);
    std::vector<bool> found(before.size(), false);
    for (size_t i = 0; i < now.size(); ++i) {
        from[i] = most_shared(now[i], was);
        if (from[i] >= 0) found[size_t(from[i])] = true;
    }
    for (size_t i = 0; i < now.size() && i < was.size(); ++i)
        if (from[i] < 0 && !found[i]) from[i] = int(i);
    return from;
}

Looks carried(const Looks& looks, const std::vector<NamedFace>& before, const std::vector<NamedFace>& after) {
    if (looks.empty()) return {};
    const std::vector<Flat> was = flats_of(before);
    const auto most_alike = [&](const Flat& face) {
        int best = -1;
        double most = 0.5; // within 60 degrees
        for (size_t i = 0; i < was.size(); ++i)
            if (const double alike = glm::dot(was[i].normal, face.normal); alike > most)
                most = alike, best = int(i);
        return best;
    };
    std::map<FaceName, double> area_of_name; ///< of the largest part that has been looked at
    Looks out;
    for (const NamedFace& face : after) {
        const Flat flat = flat_of(face);
        int from = most_shared(flat, was);
        if (from < 0) from = most_alike(flat);
        double& largest = area_of_name[face.side.name];
        if (flat.area <= largest) continue;
        largest = flat.area;
        const auto look = from < 0 ? looks.end() : looks.find(before[size_t(from)].side.name);
        if (look == looks.end())
            out.erase(face.side.name);
        else
            out[face.side.name] = look->second;
    }
    return out;
}

bool same_structure(const Brush& a, const Brush& b) {
    return a.shape == b.shape && a.sides == b.sides && a.steps == b.steps && a.arch == b.arch &&
           (a.shell_m > 0) == (b.shell_m > 0) && a.open_sides == b.open_sides && a.closed == b.closed &&
           a.points.size() == b.points.size() && a.faces.size() == b.faces.size();
}

Brush with_looks_of(Brush brush, const Brush& before) {
    brush.looks.clear();
    if (before.looks.empty()) return brush;
    std::vector<NamedFace> was = named_faces(before), now = named_faces(brush);
    // Where each lies in the level, for the two may stand otherwise.
    for (NamedFace& face : was)
        for (Vec3& p : face.corners) p = before.place.to_level(p);
    for (NamedFace& face : now)
        for (Vec3& p : face.corners) p = brush.place.to_level(p);
    brush.looks = carried(before.looks, was, now);
    return brush;
}

} // namespace rubble
