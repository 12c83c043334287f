#pragma once

#include <QStringList>

#include "session/built.h"
#include "session/claim_history.h"
#include "session/part_effects.h"
#include "session/project_files.h"
#include "session/puzzle_answer.h"
#include "session/selection.h"
#include "session/studies.h"
#include "session/suggestions.h"
#include "session/way_of_looking.h"

namespace rubble::app {

/// What the window works on: the history of the documents, their files, what is selected, how it is looked
/// at, and what is known about it. What needs only one of these takes that one; for what needs more, the
/// session passes on the questions that are asked most.
class Session : public QObject {
    Q_OBJECT
public:
    explicit Session(QObject* parent = nullptr);

    Documents& documents() { return documents_; }
    ProjectFiles& files() { return files_; }
    const ProjectFiles& files() const { return files_; }
    Selection& selected_items() { return selection_; }
    const Selection& selected_items() const { return selection_; }
    WayOfLooking& looking() { return looking_; }
    const WayOfLooking& looking() const { return looking_; }

    // Documents
    const Document& document() const { return documents_.document(); }
    const Project& project() const { return documents_.project(); }
    const Level& level() const { return documents_.level(); }
    const Level& stored_level() const { return documents_.stored_level(); }
    uint64_t version() const { return documents_.version(); }
    Character character() const { return character_of(project(), level()); }
    QString character_name() const {
        return QString::fromStdString(rubble::character_name(project(), level()));
    }
    double grid_m() const { return project().grid_m; }
    void apply(Level level, const QString& what) { documents_.apply(std::move(level), what); }
    void apply(Project project, const QString& what) { documents_.apply(std::move(project), what); }
    void preview(Level level) { documents_.preview(std::move(level)); }
    void drop_preview() { documents_.drop_preview(); }

    // Selection
    const std::vector<ItemId>& selection() const { return selection_.ids(); }
    const Item* selected() const { return selection_.item(); }
    void select(std::vector<ItemId> ids) { selection_.select(std::move(ids)); }
    const Brush* body() const { return selection_.body(); }
    const Picks& picks() const { return selection_.picks(); }
    void pick(Picks picks) { selection_.pick(std::move(picks)); }
    const edit::MassArea* area() const { return selection_.area(); }

    // Way of looking
    Stage stage() const { return looking_.stage(); }
    void go_to(Stage stage) { looking_.go_to(stage); }
    const Snapping& snapping() const { return looking_.snapping(); }
    const std::optional<edit::WorkingPlane>& plane() const { return looking_.plane(); }
    int layer() const { return std::min(looking_.layer(), int(level().layers.size()) - 1); }
    /// The layer that is painted on: the chosen one, or the first of the level's that are of tiles; null
    /// where none is.
    const Layer* tile_layer() const;
    /// Shows only some items, in the view alone; none: shows all again.
    void isolate(std::vector<ItemId> ids);
    /// The elements that are shown and can be pointed at: where one dresses, those that belong to it alone.
    std::vector<const Item*> shown_elements() const;
    /// The level as it is to be seen: what is isolated, hides the rest.
    Level seen_level() const;

    /// What a change of the part that is open by itself changes elsewhere.
    const PuzzleAnswer& puzzle_answer() const { return puzzle_answer_; }
    void set_puzzle_answer(PuzzleAnswer answer);
    const Suggestions& suggestions() const { return suggestions_; }
    void set_suggestions(Suggestions suggestions);
    const Studies& studies() const { return studies_; }
    void set_studies(Studies studies);
    /// Whether one gets from one place to another; `placeAnswered` follows.
    void ask(const Vec3& from, const Vec3& to) { emit placeAsked(from, to); }
    const PartEffects& part_effects() const { return part_effects_; }
    void set_part_effects(PartEffects effects);

    const Built& built() const { return built_; }
    void set_built(Built built);
    const ClaimHistory& claim_history() const { return claim_history_; }
    bool up_to_date() const { return built_.check && built_.check_version == version(); }

signals:
    void levelChanged();
    void documentOpened();
    void selectionChanged();
    void picksChanged();
    void stageChanged();
    void builtChanged();
    void savedChanged();
    void snappingChanged();
    void planeChanged();
    void message(const QString& text);
    void partEffectsChanged();
    void puzzleAnswerChanged();
    void suggestionsChanged();
    void studiesChanged();
    void placeAsked(const rubble::Vec3& from, const rubble::Vec3& to);
    void placeAnswered();

private:
    Documents documents_;
    ProjectFiles files_{documents_};
    Selection selection_{documents_};
    WayOfLooking looking_;
    Built built_;
    ClaimHistory claim_history_;
    QStringList edits_; ///< since the last check of a level as it stood
    PartEffects part_effects_;
    PuzzleAnswer puzzle_answer_;
    Suggestions suggestions_;
    Studies studies_;
};

} // namespace rubble::app
