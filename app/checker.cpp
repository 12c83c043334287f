#include "checker.h"

#include <algorithm>

#include "study/players.h"

namespace rubble::app {

Checker::Checker(QObject* parent) : QObject(parent) {
    qRegisterMetaType<rubble::app::Built>();
    drawing_ = std::jthread([this](std::stop_token stop) { draw_on(stop); });
    checking_ = std::jthread([this](std::stop_token stop) { check_on(stop); });
}

Checker::~Checker() {
    {
        const std::lock_guard lock(mutex_);
        running_.request();
    }
    drawing_.request_stop();
    checking_.request_stop();
    wake_.notify_all();
}

void Checker::request(const Project& project, const Level& level, uint64_t version) {
    const std::lock_guard lock(mutex_);
    running_.request();
    to_draw_ = Job{project, level, version, Cancel::create()};
    running_ = to_draw_->cancel;
    wake_.notify_all();
}

void Checker::draw_on(std::stop_token stop) {
    while (!stop.stop_requested()) {
        std::optional<Job> job;
        {
            std::unique_lock lock(mutex_);
            if (!wake_.wait(lock, stop, [&] { return to_draw_.has_value(); })) return;
            job = std::move(to_draw_);
            to_draw_.reset();
        }
        const Built built = drawn(*job);
        emit ready(built);
        const std::lock_guard lock(mutex_);
        to_check_.emplace(std::move(*job), built);
        wake_.notify_all();
    }
}

void Checker::check_on(std::stop_token stop) {
    while (!stop.stop_requested()) {
        std::optional<std::pair<Job, Built>> next;
        {
            std::unique_lock lock(mutex_);
            if (!wake_.wait(lock, stop, [&] { return to_check_.has_value(); })) return;
            next = std::move(to_check_);
            to_check_.reset();
        }
        if (!next->first.cancel.requested()) check(next->first, std::move(next->second));
    }
}

/// What is seen comes first and is never given up half-way: while something is dragged each picture must show
/// the level as it is now.
Built Checker::drawn(const Job& job) {
    Built built;
    built.version = job.version;
    built.solid = std::make_shared<build::Solid>(builder_.build(job.level));
    built.surface = std::make_shared<build::Surface>(surfaces_.build(*built.solid));
    boxes_ = std::make_shared<PickBoxes>(boxes_of(*built.surface, boxes_.get()));
    built.boxes = boxes_;
    built.hidden = hidden_brushes(job.level);
    SceneMesh mesh = mesher_.build(job.project, *built.surface, built.hidden, brush_tints(job.level),
                                   dressed_brushes(job.project, job.level));
    mesh.decals = decal_mesh(job.project, job.level, *built.surface);
    mesh.cut_edges = cut_outlines(job.level, built.hidden);
    built.mesh = std::make_shared<SceneMesh>(std::move(mesh));
    built.pieces = std::make_shared<PieceScene>(piece_scene(job.level, *built.solid));
    return built;
}

void Checker::check(const Job& job, Built built) {
    check::CheckOptions options;
    options.all_spans = true;
    options.cancel = job.cancel;
    options.before = last_;
    options.progress = [this](double part) { emit progressed(part); };
    options.on_reach = [&](const check::CheckResult& result) {
        built.tint = std::make_shared<TintMesh>(tint_mesh(result, built.hidden));
        emit ready(built);
    };
    auto result = check::check_level(job.project, job.level, built.solid, options);
    if (!result.complete) return;
    last_ = std::make_shared<check::CheckResult>(std::move(result));
    built.check = last_;
    built.export_counts = io::count_export(job.level, *built.solid, *built.surface);
    built.check_version = job.version;
    emit ready(built);
    // What players do takes longer, and comes later.
    const bool asks_players =
        std::any_of(job.level.claims.begin(), job.level.claims.end(),
                    [](const Claim& claim) { return claim.kind == Claim::Kind::share; });
    if (!asks_players || job.cancel.requested()) return;
    auto with_shares = std::make_shared<check::CheckResult>(*last_);
    study::judge_shares(job.project, job.level, *with_shares, job.cancel);
    if (job.cancel.requested()) return;
    built.check = with_shares;
    emit ready(built);
}

} // namespace rubble::app
