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

void draw_falls(QPainter& painter, const Camera& camera, const study::Crowd& crowd) {
    struct Spot {
        Vec3 sum{0};
        int count = 0, deaths = 0;
    };
    std::map<std::array<int64_t, 3>, Spot> spots;
    int most = 1;
    for (const study::PlayerRun& run : crowd.runs)
        for (const study::Miss& miss : run.misses) {
            const auto cell = [](double m) { return int64_t(std::floor(m / k_cell_m)); };
            Spot& spot = spots[{cell(miss.at.x), cell(miss.at.y), cell(miss.at.z)}];
            spot.sum += miss.at, ++spot.count, spot.deaths += miss.died;
            most = std::max(most, spot.count);
        }
    painter.setPen(Qt::NoPen);
    for (const auto& [cell, spot] : spots) {
        const auto at = camera.to_screen(spot.sum / double(spot.count));
        if (!at) continue;
        const double size = k_spot_px * std::sqrt(double(spot.count) / most);
        QColor ink = spot.deaths * 2 > spot.count ? color::plum : color::ochre;
        QRadialGradient fade(*at, size);
        ink.setAlphaF(0.75f);
        fade.setColorAt(0, ink);
        ink.setAlphaF(0);
        fade.setColorAt(1, ink);
        painter.setBrush(fade);
        painter.drawEllipse(*at, size, size);
    }
}

} // namespace

void draw_crowd(QPainter& painter, const Camera& camera, const study::Crowd& crowd, double seconds) {
    painter.save();
    draw_falls(painter, camera, crowd);
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
