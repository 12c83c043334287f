#include "window/walks.h"

#include <algorithm>

#include <QFileDialog>
#include <QMessageBox>
#include <QRandomGenerator>

#include "build/solid_builder.h"
#include "edit/chance.h"
#include "io/recording_file.h"
#include "level/element_kinds.h"
#include "level/element_values.h"
#include "level/order.h"
#include "motion/standing.h"
#include "play/kept_run.h"

namespace rubble::app {

Walks::Walks(Session& session, LevelView& view, StatusLine& status, QWidget& window)
    : QObject(&window),
      session_(session),
      view_(view),
      status_(status),
      window_(window) {
    connect(&view_, &LevelView::walkEnded, this, &Walks::end);
    connect(&view_, &LevelView::goalLeft, this, &Walks::go_on);
}

void Walks::begin(const LevelView* pointed) {
    if (view_.walking()) return;
    status_.drop_offers();
    // Places of chance turn out anew. The check's world may be that of an older level: build the newest,
    // which takes milliseconds.
    const bool by_chance = edit::has_chance(session_.level());
    const Level level = by_chance ? edit::drawn(session_.project(), session_.level(),
                                                QRandomGenerator::global()->generate64())
                                  : session_.level();
    const bool is_built =
        !by_chance && session_.built().solid && session_.built().version == session_.version();
    auto world = std::make_shared<motion::World>(
        motion::world_of(is_built ? *session_.built().solid : build::build_solid(level)));
    const Character character = session_.character();
    double heading = view_.camera().heading_deg;
    const auto starts = elements_of(session_.level(), Role::start);
    std::optional<Vec3> at;
    if (pointed) {
        const Vec3 near = world->flat_on() ? pointed->pointer_stand() : pointed->pointer_ground();
        at = motion::standing_place_near(*world, character, near);
    }
    if (!at && !starts.empty()) {
        at = met_at(session_.level(), *starts[0]->element()), heading = starts[0]->element()->facing_deg;
        if (pointed) status_.tell(tr("There is nothing to stand on there. The walk begins at the start"));
    }
    if (!at) {
        status_.tell(tr("There is nothing to stand on: point at a floor, or place a start"));
        return;
    }
    emit begun();
    if (by_chance) session_.preview(level);
    make_room(true);
    auto walker = std::make_unique<Walker>(world, character, *at, heading);
    std::vector<Vec3> checkpoints;
    for (const Item* item : elements_of(level))
        if (acts_as(*item->element()) == "checkpoint") checkpoints.push_back(met_at(level, *item->element()));
    walker->set_checkpoints(std::move(checkpoints));
    std::vector<Vec3> goals;
    double seconds = 0;
    int steps = 0;
    next_level_.reset();
    for (const Item* item : elements_of(level)) {
        const Element& element = *item->element();
        if (role_of(element) == Role::goal) {
            goals.push_back(met_at(level, element));
            if (const std::string next = text_value(element, "leads_to"); !next.empty() && !next_level_)
                next_level_ = session_.documents().level_named(next);
        }
        if (acts_as(element) != "time_limit") continue;
        seconds = world->moving().puzzle ? 0 : number_of(element, "seconds");
        steps = int(number_of(element, "steps"));
    }
    walker->set_limits(std::move(goals), seconds, steps);
    view_.begin_walk(std::move(walker));
}

/// While one walks the view has the window to itself, as far as one did not choose otherwise.
void Walks::make_room(bool walking) {
    if (!walking) {
        for (QWidget* part : hidden_) part->show();
        hidden_.clear();
    } else if (fill_window_) {
        for (QWidget* part : parts_)
            if (part->isVisibleTo(&window_)) hidden_.push_back(part), part->hide();
    }
}

void Walks::end(bool keep_view) {
    const auto walker = view_.end_walk();
    if (!walker) return;
    make_room(false);
    if (edit::has_chance(session_.level())) session_.drop_preview();
    const Vec3 here = walker->state().at;
    if (keep_view) view_.fly_to(here);
    status_.tell(keep_view ? tr("Walk ended where the figure stood")
                           : tr("Walk ended; the view is as before"));
    if (!keep_view) status_.offer(tr("View from here"), [this, here] { view_.fly_to(here); });
    constexpr int k_worth_keeping = 60; // steps: half a second
    if (walker->is_whole() && walker->recording().steps() > k_worth_keeping)
        status_.offer(tr("Keep this run"), [this, recording = walker->recording()] { keep_run(recording); });
    view_.setFocus();
}

void Walks::go_on() {
    if (!next_level_ || !view_.walker() || !view_.walker()->at_goal()) return;
    const size_t next = *next_level_;
    end(false);
    session_.documents().show_level(next);
    begin(nullptr);
}

void Walks::keep_run(const motion::Recording& recording) {
    const auto& result = session_.built().check;
    if (!result) return;
    // A run in another outcome of places of chance says nothing about the one that is shown.
    const bool by_chance = edit::has_chance(session_.level());
    for (const Item* item :
         by_chance ? std::vector<const Item*>{} : refuted_by(recording, *result, session_.level()))
        QMessageBox::warning(&window_, tr("The check is wrong here"),
                             tr("This run reaches %1, which the check says is not reached. Please report "
                                "the level with the kept run.")
                                 .arg(QString::fromStdString(item->title())));
    QString path = kept_run_path(session_.document(), session_.level());
    if (path.isEmpty())
        path = QFileDialog::getSaveFileName(&window_, tr("Keep this run"), {}, tr("Runs (*.run.json)"));
    if (path.isEmpty()) return;
    const auto saved = io::save_recording(recording, path.toStdString());
    status_.tell(saved ? tr("Kept as %1").arg(path) : QString::fromStdString(saved.error().text()));
}

} // namespace rubble::app
