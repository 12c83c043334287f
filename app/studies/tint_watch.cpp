#include "studies/tint_watch.h"

#include <cmath>

#include "base/tolerance.h"
#include "check/spans.h"
#include "edit/items.h"
#include "motion/sweep.h"

namespace rubble::app {

namespace {

/// How long a band of times is (seconds), and how many there are to be told apart.
constexpr double k_band_s = 5;
constexpr int k_bands = 6;
/// The band in which what would be lost is drawn: the last, that of plum lines.
constexpr int k_lost_band = 5;

float band_shade(int band) { return float(first_band_kind + std::min(band, k_bands - 1)); }

/// How long it takes to each ledge; the way over it comes to that.
std::vector<double> arrival_seconds(const check::Reach& reach) {
    std::vector<double> out(reach.arrivals.size(), 0);
    for (size_t ledge = 0; ledge < out.size(); ++ledge) {
        if (!reach.tinted(int(ledge))) continue;
        for (const auto& arrival : reach.chain(int(ledge))) out[ledge] += arrival->run.seconds();
    }
    return out;
}

TintMesh by_seconds(const check::CheckResult& result, const std::vector<bool>& hidden) {
    const auto seconds = arrival_seconds(*result.reach);
    return tint_mesh(result, hidden, [&](int f, const Vec3& at) -> std::optional<float> {
        const int ledge = result.ground->fragments[size_t(f)].ledge;
        const Vec3 rest = result.reach->arrivals[size_t(ledge)]->rest.body.at;
        const double way = glm::length(flat(at - rest));
        return band_shade(int((seconds[size_t(ledge)] + way / result.character.run_speed_mps) / k_band_s));
    });
}

/// What is reached only with what the other check was without.
TintMesh lost(const check::CheckResult& result, const check::CheckResult& without,
              const std::vector<bool>& hidden) {
    return tint_mesh(result, hidden, [&](int, const Vec3& at) -> std::optional<float> {
        const int there = without.ground->ledge_at(at, tolerance::feet_m);
        if (there >= 0 && without.reach->tinted(there)) return {};
        return band_shade(k_lost_band);
    });
}

/// How much of a full jump is free over the head: green where all of it is.
TintMesh by_headroom(const check::CheckResult& result, const std::vector<bool>& hidden) {
    const double jump = std::max(result.character.jump_height_m, 0.1);
    return tint_mesh(result, hidden, [&](int, const Vec3& at) -> std::optional<float> {
        const double room = check::highest_feet(*result.world, result.character, at) - at.z;
        if (room >= jump) return band_shade(0);
        return band_shade(1 + int(std::clamp(1 - room / jump, 0.0, 0.99) * (k_bands - 1)));
    });
}

/// Where a place is seen from, green; elsewhere plum lines.
TintMesh by_sight(const check::CheckResult& result, const std::vector<bool>& hidden, const Vec3& wanted) {
    constexpr double k_look_m = 0.01, k_near_m = 0.05;
    return tint_mesh(result, hidden, [&](int, const Vec3& at) -> std::optional<float> {
        const Vec3 eye = at + Vec3(0, 0, result.character.eye_height_m);
        const auto met = motion::first_contact(*result.world, {eye, k_look_m, k_look_m}, wanted - eye);
        // What is looked at may itself be in the way.
        const double left = met ? (1 - met->part) * glm::length(wanted - eye) : 0;
        return band_shade(left > k_near_m ? k_bands - 1 : 0);
    });
}

/// What one looks for of an item: of an element what stands over it, of a body the middle of its top.
Vec3 looked_at(const Item& item) {
    constexpr double k_over_m = 1;
    if (const Element* element = item.element()) return element->at + Vec3(0, 0, k_over_m);
    const Box3 box = box_of(item);
    return {box.middle().x, box.middle().y, box.high.z};
}

} // namespace

TintWatch::TintWatch(Session& session, QObject* parent)
    : QObject(parent),
      session_(session),
      jobs_([this](const Job& job, uint64_t number, const Cancel& cancel) { run(job, number, cancel); }) {
    qRegisterMetaType<std::shared_ptr<const TintMesh>>();
    connect(&session_.looking(), &WayOfLooking::overlayChanged, this, &TintWatch::follow);
    connect(&session_, &Session::builtChanged, this, &TintWatch::follow);
    connect(&session_, &Session::selectionChanged, this, [this] {
        const Overlay overlay = session_.looking().overlay();
        if (overlay == Overlay::lost || overlay == Overlay::seen) follow();
    });
    connect(this, &TintWatch::made, this,
            [this](quint64 request, const std::shared_ptr<const TintMesh>& tint) {
                if (request != request_ || session_.studies().what_if) return;
                Studies studies = session_.studies();
                studies.tint = tint;
                session_.set_studies(std::move(studies));
            });
}

void TintWatch::follow() {
    const Overlay overlay = session_.looking().overlay();
    const auto& result = session_.built().check;
    if (session_.studies().what_if) return; // that has the ground to itself
    const bool of_selection = overlay == Overlay::lost || overlay == Overlay::seen;
    if (overlay == Overlay::usual || (of_selection && session_.selection().empty())) {
        jobs_.drop();
        request_ = 0;
        if (!session_.studies().tint) return;
        Studies studies = session_.studies();
        studies.tint.reset();
        return session_.set_studies(std::move(studies));
    }
    if (!result || !result->complete || !session_.up_to_date()) return;
    Job job{overlay, session_.project(), session_.level(), result, session_.built().hidden, {}};
    if (overlay == Overlay::seen)
        if (const Item* item = find_item(session_.level(), session_.selection().front()))
            job.wanted = looked_at(*item);
    if (overlay == Overlay::lost) job.without = edit::without(session_.level(), session_.selection());
    request_ = jobs_.ask(std::move(job));
}

void TintWatch::run(const Job& job, uint64_t number, const Cancel& cancel) {
    if (job.overlay == Overlay::seconds)
        return emit made(number, std::make_shared<const TintMesh>(by_seconds(*job.result, job.hidden)));
    if (job.overlay == Overlay::headroom)
        return emit made(number, std::make_shared<const TintMesh>(by_headroom(*job.result, job.hidden)));
    if (job.overlay == Overlay::seen)
        return emit made(number,
                         std::make_shared<const TintMesh>(by_sight(*job.result, job.hidden, job.wanted)));
    check::CheckOptions options;
    options.explain = options.mends = false, options.cancel = cancel;
    const check::CheckResult without = check::check_level(job.project, job.without, options);
    if (!without.complete || cancel.requested()) return;
    emit made(number, std::make_shared<const TintMesh>(lost(*job.result, without, job.hidden)));
}

} // namespace rubble::app
