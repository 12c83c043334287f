#include "view/crowd_overlay.h"

#include <array>
#include <cmath>
#include <map>

#include "theme.h"

namespace rubble::app {

namespace {

/// Falls are counted together in cells of this size (metres).
constexpr double k_cell_m = 0.75;
/// A dot, and the largest spot (pixels).
constexpr double k_dot_px = 3.2, k_spot_px = 26;

/// What is counted at places, together in cells.
class Spots {
public:
    void add(const Vec3& at, double weight, bool grave) {
        const auto cell = [](double m) { return int64_t(std::floor(m / k_cell_m)); };
        Spot& spot = spots_[{cell(at.x), cell(at.y), cell(at.z)}];
        spot.sum += at * weight, spot.weight += weight;
        if (grave) spot.grave += weight;
        most_ = std::max(most_, spot.weight);
    }
    void draw(QPainter& painter, const Camera& camera, const QColor& usual) const {
        painter.setPen(Qt::NoPen);
        for (const auto& [cell, spot] : spots_) {
            const auto at = camera.to_screen(spot.sum / spot.weight);
            if (!at) continue;
            const double size = k_spot_px * std::sqrt(spot.weight / most_);
            QColor ink = spot.grave * 2 > spot.weight ? color::plum : usual;
            QRadialGradient fade(*at, size);
            ink.setAlphaF(0.75f);
            fade.setColorAt(0, ink);
            ink.setAlphaF(0);
            fade.setColorAt(1, ink);
            painter.setBrush(fade);
            painter.drawEllipse(*at, size, size);
        }
    }

private:
    struct Spot {
        Vec3 sum{0};
        double weight = 0, grave = 0;
    };
    std::map<std::array<int64_t, 3>, Spot> spots_;
    double most_ = 1e-9;
};

/// Where they were: of those who explore the times that they came there, plum where half of them went round
/// in circles; of others the time spent there.
Spots visits_of(const Studies& studies) {
    Spots spots;
    if (studies.exploration) {
        const int half = int(studies.crowd->runs.size()) / 2;
        for (const auto& area : studies.exploration->areas)
            if (area.visits > 0) spots.add(area.at, area.visits, area.circles >= half);
        return spots;
    }
    for (const study::PlayerRun& run : studies.crowd->runs)
        for (const Vec3& at : run.track) spots.add(at, 1, false);
    return spots;
}

Spots misses_of(const study::Crowd& crowd, bool by_time) {
    Spots spots;
    for (const study::PlayerRun& run : crowd.runs)
        for (const study::Miss& miss : run.misses)
            spots.add(miss.at, by_time ? std::max(miss.lost_s, 0.01) : 1, miss.died);
    return spots;
}

/// Ground that nobody finds, crossed.
void draw_not_found(QPainter& painter, const Camera& camera, const study::Exploration& exploration) {
    constexpr double k_cross_px = 3.5, k_least_m2 = 1;
    painter.setPen(QPen(color::plum, 1.4));
    for (const auto& area : exploration.areas) {
        const auto at = camera.to_screen(area.at);
        if (area.found_by > 0 || area.area_m2 < k_least_m2 || !at) continue;
        painter.drawLine(*at - QPointF(k_cross_px, k_cross_px), *at + QPointF(k_cross_px, k_cross_px));
        painter.drawLine(*at - QPointF(k_cross_px, -k_cross_px), *at + QPointF(k_cross_px, -k_cross_px));
    }
}

} // namespace

void draw_crowd(QPainter& painter, const Camera& camera, const Studies& studies) {
    const study::Crowd& crowd = *studies.crowd;
    painter.save();
    if (studies.heat == Heat::visits)
        visits_of(studies).draw(painter, camera, color::accent);
    else
        misses_of(crowd, studies.heat == Heat::lost_time).draw(painter, camera, color::ochre);
    if (studies.exploration) draw_not_found(painter, camera, *studies.exploration);
    const double seconds = studies.crowd_s;
    painter.setPen(QPen(color::paper, 1));
    const size_t step = size_t(seconds / study::track_s);
    const double part = seconds / study::track_s - double(step);
    for (const study::PlayerRun& run : crowd.runs) {
        if (run.track.empty()) continue;
        const Vec3& a = run.track[std::min(step, run.track.size() - 1)];
        const Vec3& b = run.track[std::min(step + 1, run.track.size() - 1)];
        const auto at = camera.to_screen(a + (b - a) * part);
        if (!at) continue;
        const bool ended = step + 1 >= run.track.size();
        painter.setBrush(!ended ? color::accent : run.arrived ? color::sea_green : color::plum);
        painter.drawEllipse(*at, k_dot_px, k_dot_px);
    }
    painter.restore();
}

} // namespace rubble::app
