#include "session/session.h"

#include "edit/layers.h"
#include "level/dressing/light.h"
#include "level/element_kinds.h"
#include "level/order.h"

namespace rubble::app {

std::optional<Hit> Built::met_by(const Ray& ray, double cut_z) const {
    auto hit = boxes     ? pick(*boxes, hidden, ray, cut_z)
               : surface ? pick(*surface, hidden, ray, cut_z)
                         : std::nullopt;
    if (pieces)
        if (const auto piece = pick(*pieces, ray, cut_z); piece && (!hit || piece->along < hit->along))
            hit = piece;
    return hit;
}

Session::Session(QObject* parent) : QObject(parent) {
    connect(&documents_, &Documents::opening, this, [this] {
        selection_.clear();
        looking_.isolate({});
        looking_.set_picked_area({});
        claim_history_.clear(), edits_.clear();
    });
    connect(&documents_, &Documents::edited, this, [this](const QString& what) {
        if (!edits_.contains(what)) edits_ << what;
    });
    // First what is selected, then those who show it.
    connect(&documents_, &Documents::changed, this, [this] {
        const std::vector<ItemId> before = selection_.ids();
        selection_.forget_lost();
        emit levelChanged();
        if (before.size() != selection_.ids().size()) emit selectionChanged();
    });
    connect(this, &Session::levelChanged, this, [this] { // they spoke of the level before
        // What is looked at beside the level stays while it changes.
        Studies kept;
        kept.version = studies_.version, kept.sides = studies_.sides;
        if (studies_.picked || studies_.crowd || studies_.what_if || studies_.asked) set_studies(kept);
    });
    connect(&documents_, &Documents::opened, this, &Session::documentOpened);
    connect(&documents_, &Documents::savedChanged, this, &Session::savedChanged);
    connect(&documents_, &Documents::message, this, &Session::message);
    connect(&selection_, &Selection::changed, this, &Session::selectionChanged);
    connect(&selection_, &Selection::picksChanged, this, &Session::picksChanged);
    connect(&looking_, &WayOfLooking::stageChanged, this, &Session::stageChanged);
    connect(&looking_, &WayOfLooking::snappingChanged, this, &Session::snappingChanged);
    connect(&looking_, &WayOfLooking::planeChanged, this, &Session::planeChanged);
}

void Session::isolate(std::vector<ItemId> ids) {
    looking_.isolate(std::move(ids));
    documents_.show_again();
}

std::vector<const Item*> Session::shown_elements() const {
    std::vector<const Item*> out = seen_elements_of(level());
    // Each has its own stage; what is picked is seen wherever one is.
    std::erase_if(out, [&](const Item* item) {
        const bool dressing = is_dressing(acts_as(*item->element()));
        return dressing != (stage() == Stage::dress) &&
               !(dressing && std::ranges::find(selection(), item->id) != selection().end());
    });
    return out;
}

Level Session::seen_level() const {
    return looking_.isolated().empty() ? level() : edit::with_only_shown(level(), looking_.isolated());
}

void Session::set_built(Built built) {
    // What a check says of a level that has a newer picture already comes too late.
    if (built.version < built_.version) return;
    // A drawing without its check, or with the tint alone, keeps the last answer, which the window marks as
    // old.
    if (!built.check) built.check = built_.check, built.check_version = built_.check_version;
    if (!built.tint) built.tint = built_.tint;
    built_ = std::move(built);
    // Of a level that is being dragged nobody says yet that it is meant so.
    if (up_to_date() && built_.check->complete && !documents_.previews()) {
        claim_history_.note(*built_.check, edits_.join(QStringLiteral(", ")));
        edits_.clear();
    }
    emit builtChanged();
}

const Layer* Session::tile_layer() const {
    const auto& layers = stored_level().layers;
    if (const int chosen = layer(); chosen >= 0 && size_t(chosen) < layers.size())
        if (layers[size_t(chosen)]->tiles) return layers[size_t(chosen)].get();
    for (const Shared<Layer>& one : layers)
        if (one->tiles) return one.get();
    return nullptr;
}

void Session::set_suggestions(Suggestions suggestions) {
    suggestions_ = std::move(suggestions);
    emit suggestionsChanged();
}

void Session::set_studies(Studies studies) {
    studies_ = std::move(studies);
    emit studiesChanged();
}

void Session::set_puzzle_answer(PuzzleAnswer answer) {
    puzzle_answer_ = std::move(answer);
    emit puzzleAnswerChanged();
}

void Session::set_part_effects(PartEffects effects) {
    part_effects_ = std::move(effects);
    emit partEffectsChanged();
}

} // namespace rubble::app
