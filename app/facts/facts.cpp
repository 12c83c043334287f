#include "facts/facts.h"

#include "level/element_values.h"

#include <cmath>
#include <set>

#include "edit/repeats.h"
#include "facts/pages.h"

namespace rubble::app {

Facts::Facts(Session& session, QWidget* parent) : QScrollArea(parent), session_(session) {
    setWidgetResizable(true);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setAccessibleName(tr("Facts"));
    connect(&session_, &Session::selectionChanged, this, [this] { claim_ = {}, rebuild(); });
    connect(&session_, &Session::stageChanged, this, [this] { claim_ = {}, rebuild(); });
    connect(&session_, &Session::documentOpened, this, &Facts::rebuild);
    connect(&session_, &Session::levelChanged, this, &Facts::follow_level);
    connect(&session_, &Session::partEffectsChanged, this, [this] {
        if (session_.selection().empty())
            QMetaObject::invokeMethod(this, &Facts::rebuild, Qt::QueuedConnection);
    });
    connect(&session_, &Session::suggestionsChanged, this, [this] {
        if (session_.selection().empty())
            QMetaObject::invokeMethod(this, &Facts::rebuild, Qt::QueuedConnection);
    });
    connect(&session_, &Session::puzzleAnswerChanged, this, [this] { page_->refresh(); });
    connect(&session_, &Session::picksChanged, this, &Facts::follow_level);
    connect(&session_, &Session::builtChanged, this, [this] {
        // What is said of claims and elements depends on the check.
        const Item* item = session_.selected();
        if (session_.up_to_date() && (!claim_.empty() || (item && item->element())))
            rebuild();
        else
            page_->refresh();
    });
    rebuild();
}

namespace {

/// Two brushes of one kind, with as much picked of them, have the same fields.
std::vector<int> kind_of(const Session& session) {
    if (const auto& faces = session.selected_items().faces();
        session.stage() == Stage::dress && !faces.empty()) {
        // What a face can have depends on its material.
        std::set<std::string> materials;
        for (const edit::FaceRef& face : faces)
            if (const Item* one = find_item(session.level(), face.item); one && one->brush()) {
                const Look look = edit::look_of(*one->brush(), face.face);
                materials.insert(look.material.value + (look.lay.kind == LayKind::fitted ? " fitted" : ""));
            }
        std::vector<int> out{int(faces.size())};
        for (const std::string& id : materials) out.push_back(int(std::hash<std::string>()(id) & 0xFFFFFF));
        out.push_back(int(std::hash<std::string>()(faces.back().item.value) & 0xFFFFFF));
        return out;
    }
    const Item* item = session.selected();
    const Brush* brush = item ? item->brush() : nullptr;
    if (!brush) {
        // Several have the fields that they share.
        std::set<std::vector<int>> kinds;
        for (const Item* one : chosen_items(session.level(), session.selection()))
            if (const Brush* b = one->brush())
                kinds.insert({int(b->shape), int(b->arch), int(b->effect), std::abs(b->angle_deg) > 360,
                              b->shell_m > 0});
        std::vector<int> out{int(session.level().dimensions.size()), int(session.level().underlays.size()),
                             int(session.level().links.size())};
        for (const auto& kind : kinds) out.insert(out.end(), kind.begin(), kind.end());
        const auto add = [&](const std::string& text) {
            out.push_back(int(std::hash<std::string>()(text) & 0xFFFFFF));
        };
        add(session.level().about);
        out.push_back(int(session.level().also_proven.size()));
        out.push_back(int(session.project().rule_sets.size()));
        out.push_back(int(session.project().characters.size()));
        if (item && item->element()) add(text_value(*item->element(), "leads_to"));
        if (item && item->element()) { // what it refers to has rows
            Item copy = *item;
            for_each_reference(copy, [&](ItemId& id) { add(id.value); });
        }
        if (item && item->assembly()) { // what it holds, may hold, and has of its own, has rows
            for_each_source(*item->assembly(), add);
            for (const auto& [id, own] : item->assembly()->own) add(id + (own.left_out ? "-" : ""));
            if (const auto& assembly = item->assembly()->assembly)
                for (const auto& [id, own] : assembly->own) add(id + (own.left_out ? "-" : ""));
            out.push_back(int(session.project().assemblies.size()));
        }
        return out;
    }
    const Picks& picks = session.picks();
    return {int(brush->shape),
            int(brush->arch),
            int(brush->effect),
            int(std::abs(brush->angle_deg) > 360),
            int(picks.points.size()),
            int(picks.edges.size()),
            int(picks.faces.size()),
            int(brush->shell_m > 0),
            int(brush->place.rotation.has_value()),
            int(session.area() != nullptr),
            int(edit::linked_to(session.level(), item->id).size())};
}

/// Whether all that is selected are pieces of kits.
bool are_pieces(const Session& session) {
    const auto items = chosen_items(session.level(), session.selection());
    return !items.empty() &&
           std::all_of(items.begin(), items.end(), [](const Item* item) { return item->piece(); });
}

} // namespace

/// Shows what changed. A brush of another kind has other fields: the page is made anew, but later, because
/// the change may come from one of its fields.
void Facts::follow_level() {
    if (kind_of(session_) == kind_)
        page_->refresh();
    else
        QMetaObject::invokeMethod(this, &Facts::rebuild, Qt::QueuedConnection);
}

void Facts::show_claim(const ClaimId& id) {
    claim_ = id;
    rebuild();
}

void Facts::rebuild() {
    session_.documents().set_gesture(false); // a number that was being dragged is gone with the page
    page_ = new Page(session_, {14, 12, 14, 12});
    kind_ = kind_of(session_);
    fill(*page_);
    page_->column().addStretch();
    setWidget(page_);
    page_->refresh();
}

void Facts::fill(Page& page) {
    const Item* item = session_.selected();
    const auto& claims = session_.level().claims;
    const auto claim =
        std::find_if(claims.begin(), claims.end(), [&](const Claim& one) { return one.id == claim_; });
    if (session_.stage() == Stage::metrics)
        fill_character(page);
    else if (claim != claims.end())
        fill_claim(page, *this, *claim);
    else if (!session_.picks().empty())
        fill_picks(page);
    else if (session_.stage() == Stage::dress && !session_.selected_items().faces().empty())
        fill_faces(page);
    else if (item && item->brush())
        fill_brush(page, item->id);
    else if (item && item->element())
        fill_element(page, *this, item->id);
    else if (item && item->picture())
        fill_picture(page, item->id);
    else if (item && item->assembly())
        fill_assembly(page, item->id);
    else if (are_pieces(session_))
        fill_pieces(page);
    else if (!session_.selection().empty())
        fill_selection(page);
    else
        fill_level(page, *this);
}

} // namespace rubble::app
