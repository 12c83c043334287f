#include "level/kits/kit.h"

#include <algorithm>
#include <cmath>

namespace rubble {

std::shared_ptr<const Piece> Kit::piece(const std::string& id) const {
    for (const auto& piece : pieces)
        if (piece->id == id) return piece;
    return nullptr;
}

Vec3 in_piece(const Piece& piece, const Vec3& in_file) {
    const Vec3 upright = piece.y_up ? Vec3(in_file.x, -in_file.z, in_file.y) : in_file;
    return upright * piece.scale - piece.origin_m;
}

std::array<int, 3> modules_of(const Kit& kit, const Vec3& size_m) {
    constexpr double k_most = 10'000;
    std::array<int, 3> out{1, 1, 1};
    for (int axis = 0; axis < 3; ++axis)
        out[size_t(axis)] = int(std::clamp(std::round(size_m[axis] / kit.module_m[axis]), 1.0, k_most));
    return out;
}

Box3 own_box(const Piece& piece) {
    if (piece.body && !piece.body->box.empty()) return piece.body->box;
    const Vec3 half(piece.size_m.x / 2, piece.size_m.y / 2, 0);
    return {-half, Vec3(half.x, half.y, piece.size_m.z)};
}

bool joints_fit(const std::string& a, const std::string& b) {
    if (a.empty() || b.empty()) return a == b;
    const bool handed = a.back() == '+' || a.back() == '-';
    if (!handed) return a == b;
    return a.size() == b.size() && a.back() != b.back() && (b.back() == '+' || b.back() == '-') &&
           a.compare(0, a.size() - 1, b, 0, b.size() - 1) == 0;
}

PieceCells cells_of(const Kit& kit, const Piece& piece) {
    const Box3 box = own_box(piece);
    PieceCells out;
    for (int axis = 0; axis < 3; ++axis) {
        const double module = kit.module_m[axis], size = box.high[axis] - box.low[axis];
        int& count = out.count[size_t(axis)];
        if (axis == 2) { // upwards pieces stand on their storey's floor, whatever lies under it
            out.low.z = std::round(box.low.z / module) * module;
            count = int(std::clamp(std::round((box.high.z - out.low.z) / module), 1.0, 10'000.0));
        } else if (size < module / 2) {
            out.low[axis] = -module / 2;
        } else {
            count = int(std::clamp(std::round(size / module), 1.0, 10'000.0));
            const double low = box.middle()[axis] - module * count / 2;
            out.low[axis] = std::round(low / (module / 2)) * (module / 2);
        }
    }
    return out;
}

CellSide side_of(const Kit& kit, const PieceCells& cells, const std::array<int, 3>& cell, ModuleSide side) {
    const Vec3 at(cell[0], cell[1], cell[2]);
    CellSide out;
    out.out = direction_of(side);
    out.middle = cells.low + (at + Vec3(0.5)) * kit.module_m + out.out * kit.module_m * 0.5;
    out.depth_m = std::abs(glm::dot(kit.module_m, out.out));
    const bool lies = side == ModuleSide::bottom || side == ModuleSide::top;
    const Vec3 up = lies ? Vec3(0, 1, 0) : Vec3(0, 0, 1);
    const Vec3 right = glm::cross(-out.out, up);
    out.up = up * glm::dot(kit.module_m, up);
    out.right = right * std::abs(glm::dot(kit.module_m, right));
    return out;
}

Vec3 direction_of(ModuleSide side) {
    switch (side) {
    case ModuleSide::left:
        return {-1, 0, 0};
    case ModuleSide::right:
        return {1, 0, 0};
    case ModuleSide::near:
        return {0, -1, 0};
    case ModuleSide::away:
        return {0, 1, 0};
    case ModuleSide::bottom:
        return {0, 0, -1};
    case ModuleSide::top:
        break;
    }
    return {0, 0, 1};
}

} // namespace rubble
