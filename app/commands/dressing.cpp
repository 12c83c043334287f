#include "commands/dressing.h"

#include <QFileDialog>
#include <QFileInfo>
#include <QImage>

#include "claim_names.h"
#include "edit/items.h"
#include "edit/project.h"
#include "io/material_file.h"
#include "level/element_values.h"
#include "level/item_search.h"
#include "numbers.h"

namespace rubble::app {

namespace {

/// The picture as dots; nothing where it is damaged.
Picture decoded(const PictureBytes& bytes) {
    const QImage image =
        QImage::fromData(reinterpret_cast<const uchar*>(bytes.bytes.data()), int(bytes.bytes.size()))
            .convertToFormat(QImage::Format_RGBA8888);
    Picture out;
    out.width = image.width(), out.height = image.height();
    for (int y = 0; y < image.height(); ++y)
        out.rgba.insert(out.rgba.end(), image.constScanLine(y), image.constScanLine(y) + 4 * image.width());
    return out;
}

/// The colour that a picture has from afar.
std::array<uint8_t, 3> middle_color(const Picture& picture) {
    std::array<double, 3> sum{};
    const size_t count = picture.rgba.size() / 4;
    for (size_t i = 0; i < count; ++i)
        for (size_t c = 0; c < 3; ++c) sum[c] += picture.rgba[i * 4 + c];
    std::array<uint8_t, 3> out{};
    for (size_t c = 0; c < 3; ++c) out[c] = uint8_t(sum[c] / double(std::max<size_t>(count, 1)));
    return out;
}

const std::vector<edit::FaceRef>* picked_faces(Session& session) {
    const auto& faces = session.selected_items().faces();
    if (!faces.empty()) return &faces;
    emit session.message(Session::tr("Click a face in the view first"));
    return nullptr;
}

void apply_looks(Session& session, const std::vector<edit::FaceRef>& faces, const QString& what,
                 const std::function<Look(const Look&)>& change) {
    Level next = edit::with_looks(session.stored_level(), faces, change);
    if (!(next == session.stored_level())) session.apply(std::move(next), what);
}

} // namespace

bool add_material_pictures(Session& session, QWidget& window, QStringList paths) {
    if (paths.isEmpty())
        paths = QFileDialog::getOpenFileNames(&window, Session::tr("Pictures of materials"), {},
                                              Session::tr("Pictures (*.png *.jpg *.jpeg)"));
    std::vector<PictureBytes> pictures;
    QStringList bad;
    for (const QString& path : paths) {
        auto picture = io::load_picture_bytes(path.toStdString());
        if (picture && decoded(*picture).width > 0)
            pictures.push_back(std::move(*picture));
        else
            bad << QFileInfo(path).fileName();
    }
    if (!bad.isEmpty())
        emit session.message(
            Session::tr("No picture that can be read: %1").arg(bad.join(QStringLiteral(", "))));
    if (pictures.empty()) return false;
    Project project = session.project();
    QStringList names;
    for (Material& material : edit::materials_from(project, std::move(pictures))) {
        if (const PictureBytes* bytes = material.picture()) {
            const Picture picture = decoded(*bytes);
            material.kind = edit::edges_meet(picture) ? MaterialKind::pattern : MaterialKind::prints;
            material.color = middle_color(picture);
            // As large as its dots are wanted to be.
            material.metres = Vec2(picture.width, picture.height) / project.dots_per_m;
        }
        names << QString::fromStdString(material.name);
        project = edit::with_material(project, std::move(material));
    }
    session.apply(std::move(project), Session::tr("Add materials"));
    if (bad.isEmpty()) emit session.message(Session::tr("New: %1").arg(names.join(QStringLiteral(", "))));
    return true;
}

void pick_faces_like(Session& session, edit::FacesLike like) {
    const auto* faces = picked_faces(session);
    if (!faces) return;
    std::vector<edit::FaceRef> all;
    for (const edit::FaceRef& face : *faces)
        for (const edit::FaceRef& other : edit::faces_like(session.level(), face, like))
            if (std::find(all.begin(), all.end(), other) == all.end()) all.push_back(other);
    const size_t count = all.size();
    session.selected_items().pick_faces(std::move(all));
    emit session.message(Session::tr("%n face(s)", nullptr, int(count)));
}

void give_material(Session& session, const MaterialId& id) {
    if (const Item* item = session.selected();
        item && item->element() && acts_as(*item->element()) == "decal") {
        Item decal = *item;
        decal.body = with_value(with_value(*item->element(), "material", id.value), "print", std::string());
        return session.apply(edit::with_changed(session.stored_level(), decal), Session::tr("Material"));
    }
    const auto& faces = session.selected_items().faces();
    if (faces.empty()) return give_material_to_brushes(session, id);
    const Material* material = find_material(session.project(), id);
    Look look{id, {}};
    if (material && material->kind == MaterialKind::prints) look.lay.kind = LayKind::fitted;
    apply_looks(session, faces, Session::tr("Material"), [&](const Look&) { return look; });
}

void give_material_to_face(Session& session, const MaterialId& material, const edit::FaceRef& face) {
    if (is_locked(session.level(), face.item)) return;
    const auto& picked = session.selected_items().faces();
    if (std::find(picked.begin(), picked.end(), face) == picked.end())
        session.selected_items().pick_faces({face});
    give_material(session, material);
}

void give_material_to_brushes(Session& session, const MaterialId& material) {
    std::vector<Item> changed;
    for (const ItemId& id : session.selection())
        if (const Item* item = find_item(session.level(), id); item && item->brush()) {
            Item copy = *item;
            auto& brush = std::get<Brush>(copy.body);
            brush.material = material;
            brush.looks.clear();
            changed.push_back(std::move(copy));
        }
    if (changed.empty())
        return emit session.message(Session::tr("Click faces in the view, then a material here"));
    session.apply(edit::with_all_changed(session.level(), changed), Session::tr("Material"));
}

void change_lays(Session& session, const QString& what, const std::function<void(Lay&)>& change) {
    if (const auto* faces = picked_faces(session))
        apply_looks(session, *faces, what, [&](const Look& look) {
            Look out = look;
            change(out.lay);
            return out;
        });
}

void shift_lays_by_half(Session& session) {
    const auto* faces = picked_faces(session);
    if (!faces) return;
    apply_looks(session, *faces, Session::tr("Half a repeat"), [&](const Look& look) {
        Look out = look;
        const Material* material = find_material(session.project(), look.material);
        const double repeat = look.lay.metres ? look.lay.metres->x : material ? material->metres.x : 1;
        out.lay.shift.x = std::fmod(out.lay.shift.x + repeat / 2, repeat);
        return out;
    });
}

void run_lays_on(Session& session) {
    const auto* faces = picked_faces(session);
    if (!faces) return;
    Level next = edit::with_look_run_on(session.project(), session.stored_level(), *faces);
    if (next == session.stored_level())
        return emit session.message(Session::tr(
            "Pick faces of one brush that follow each other round its edges, the dressed one first"));
    session.apply(std::move(next), Session::tr("Run on round the corner"));
}

void fit_lays(Session& session) {
    const auto* faces = picked_faces(session);
    if (!faces) return;
    const Item* last = find_item(session.level(), faces->back().item);
    const Look look = edit::look_of(*last->brush(), faces->back().face);
    Level next = edit::with_look_fitted(session.stored_level(), *faces, look);
    if (next == session.stored_level())
        return emit session.message(Session::tr("Only faces that lie in one plane are fitted as one"));
    session.apply(std::move(next), Session::tr("Fit onto the faces"));
}

std::optional<Box3> pick_next_bare(Session& session) {
    const std::vector<edit::FaceRef> bare = edit::bare_faces(session.level());
    if (bare.empty()) {
        emit session.message(Session::tr("No face is bare"));
        return {};
    }
    const auto& picked = session.selected_items().faces();
    size_t next = 0;
    if (!picked.empty())
        if (const auto at = std::find(bare.begin(), bare.end(), picked.back()); at != bare.end())
            next = size_t(at - bare.begin() + 1) % bare.size();
    const edit::FaceRef face = bare[next];
    session.selected_items().pick_faces({face});
    emit session.message(Session::tr("Bare face %1 of %2").arg(next + 1).arg(bare.size()));
    Box3 box;
    const Brush& brush = *find_item(session.level(), face.item)->brush();
    for (const NamedFace& one : named_faces(brush))
        if (one.side.name == face.face)
            for (const Vec3& p : one.corners) {
                const Vec3 at = brush.place.to_level(p);
                box.add({at, at});
            }
    return box;
}

void dress_bare(Session& session) {
    Level next = edit::with_bare_dressed(session.stored_level());
    if (next == session.stored_level())
        return emit session.message(
            edit::bare_faces(session.level()).empty()
                ? Session::tr("No face is bare")
                : Session::tr("Choose standard materials for the layer first, at the end of the tray"));
    session.apply(std::move(next), Session::tr("Dress what is bare"));
}

} // namespace rubble::app
