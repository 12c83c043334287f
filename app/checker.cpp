#include "checker.h"

namespace rubble::app {

Checker::Checker(QObject* parent) : QObject(parent) {
    qRegisterMetaType<rubble::app::Built>();
    worker_ = std::jthread([this](std::stop_token stop) { work(stop); });
}

Checker::~Checker() {
    {
        const std::lock_guard lock(mutex_);
        running_.request();
    }
    worker_.request_stop();
    wake_.notify_all();
}

void Checker::request(const Project& project, const Level& level, uint64_t version) {
    const std::lock_guard lock(mutex_);
    running_.request();
    next_ = Job{project, level, version, Cancel::create()};
    wake_.notify_all();
}

void Checker::work(std::stop_token stop) {
    while (!stop.stop_requested()) {
        std::optional<Job> job;
        {
            std::unique_lock lock(mutex_);
            if (!wake_.wait(lock, stop, [&] { return next_.has_value(); })) return;
            job = std::move(next_);
            next_.reset();
            running_ = job->cancel;
        }
        run(*job);
    }
}

void Checker::run(const Job& job) {
    // What is seen comes first and is never given up half-way: while something is dragged each picture must
    // show the level as it is now.
    Built built;
    built.version = job.version;
    built.solid = std::make_shared<build::Solid>(builder_.build(job.level));
    built.surface = std::make_shared<build::Surface>(surfaces_.build(*built.solid));
    built.hidden = hidden_brushes(job.level);
    SceneMesh mesh = scene_mesh(job.project, *built.surface, built.hidden, brush_tints(job.level));
    mesh.cut_edges = cut_outlines(job.level, built.hidden);
    built.mesh = std::make_shared<SceneMesh>(std::move(mesh));
    emit ready(built);
    check::CheckOptions options;
    options.all_spans = true;
    options.cancel = job.cancel;
    options.before = last_;
    options.progress = [this](double part) { emit progressed(part); };
    options.on_reach = [&](const check::CheckResult& result) {
        built.tint = std::make_shared<TintMesh>(tint_mesh(result, built.hidden));
        emit ready(built);
    };
    auto result = check::check_level(job.project, job.level, builder_, options);
    if (!result.complete) return;
    last_ = std::make_shared<check::CheckResult>(std::move(result));
    built.check = last_;
    built.check_version = job.version;
    emit ready(built);
}

} // namespace rubble::app
