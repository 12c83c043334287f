#include "view/piece_renderer.h"

#include <cmath>

#include <QImage>

#include "theme.h"
#include "view/lit.h"
#include "view/uniforms.h"

namespace rubble::app {

namespace {

constexpr const char* k_piece_faces_vertex = R"(#version 330 core
layout(location = 0) in vec3 at;
layout(location = 1) in vec3 normal;
layout(location = 2) in vec3 color;
layout(location = 3) in vec2 place;
layout(location = 4) in mat4 own;
uniform mat4 view; uniform float cut_z;
out vec3 world; out vec3 facing; out vec3 base; out vec2 on_picture;
void main() {
    vec4 there = own * vec4(at, 1.0);
    world = there.xyz; facing = mat3(own) * normal; base = color; on_picture = place;
    gl_Position = view * there;
    gl_ClipDistance[0] = cut_z - there.z;
    gl_ClipDistance[1] = 1.0;
})";

// Lit as brushes are, with their chalk lines where there is no picture; what is cut open is hatched likewise.
constexpr const char* k_piece_faces_fragment = R"(#version 330 core
in vec3 world; in vec3 facing; in vec3 base; in vec2 on_picture;
uniform sampler2D picture; uniform float with_picture;
uniform float module, ratio, max_slope, slice_end;
uniform vec3 paper, toward; // the way the eye looks
uniform vec3 eye; uniform float flat_view;
uniform vec4 hole; uniform vec3 ahead; uniform float hole_ground; // as of brushes
out vec4 result;
bool seen_through(vec3 at, float deeper) {
    return distance(gl_FragCoord.xy, hole.xy) < hole.z && dot(at - eye, ahead) < hole.w + deeper &&
           at.z > hole_ground;
}
float lines(vec2 p, float step) {
    vec2 q = p / step;
    vec2 w = fwidth(q);
    vec2 d = abs(fract(q - 0.5) - 0.5) / max(w, vec2(1e-6));
    float near = 1.0 - min(min(d.x, d.y) / 1.1, 1.0);
    return near * clamp(1.0 - max(w.x, w.y) * 5.0, 0.0, 1.0);
}
LIGHTS
void main() {
    vec3 n = normalize(facing);
    vec3 look = flat_view > 0.5 ? toward : normalize(world - eye);
    bool inside = dot(n, look) > 0.02;
    if (seen_through(world, inside ? 2.0 : 0.0) && (mod(gl_FragCoord.x, 4.0) >= 1.0 || mod(gl_FragCoord.y, 4.0) >= 1.0)) discard;
    if (inside) {
        float stripe = mod(gl_FragCoord.x + gl_FragCoord.y, 9.0 * ratio);
        result = vec4(stripe < 1.3 * ratio ? vec3(0.36, 0.33, 0.30) : vec3(0.925, 0.902, 0.861), 1.0);
        return;
    }
    if (gl_FragCoord.z * 2.0 - 1.0 > slice_end) {
        result = vec4(paper, 1.0);
        return;
    }
    float light = 0.62 + 0.30 * max(n.z, 0.0) + 0.13 * max(dot(n, normalize(vec3(-0.55, -0.75, 0.3))), 0.0)
                  + 0.05 * max(dot(n, vec3(0.9, 0.2, 0.0)), 0.0);
    if (n.z < -0.5) light = 0.52;
    vec3 stone = base;
    if (with_picture > 0.5) {
        vec4 texel = texture(picture, on_picture);
        if (texel.a < 0.35) discard;
        stone *= texel.rgb;
    }
    float slope = degrees(acos(clamp(n.z, -1.0, 1.0)));
    if (max_slope >= 0.0 && slope > 0.5 && slope < 89.0) {
        stone = mix(vec3(0.122, 0.541, 0.490), vec3(0.788, 0.541, 0.106), clamp(slope / max(max_slope, 1.0), 0.0, 1.0));
        if (slope > max_slope + 0.1)
            stone = mod(gl_FragCoord.x - gl_FragCoord.y, 8.0 * ratio) < 2.5 * ratio ? vec3(0.93) : vec3(0.541, 0.227, 0.4);
    }
    vec3 a = abs(n);
    vec2 p = a.z > a.x && a.z > a.y ? world.xy : a.x > a.y ? world.yz : world.xz;
    float chalk = with_picture > 0.5 ? 0.0 : 0.14 * lines(p, 1.0) + 0.2 * lines(p, module);
    vec3 shine = light_count > 0 ? lit(world, n) : vec3(light);
    result = vec4(mix(stone * shine, vec3(1.0), light_count > 0 ? 0.0 : chalk), 1.0);
})";

constexpr const char* k_piece_lines_vertex = R"(#version 330 core
layout(location = 0) in vec3 at;
layout(location = 4) in mat4 own;
uniform mat4 view; uniform float cut_z, slice_end, nearer; uniform vec3 eye;
out vec3 world;
void main() {
    vec3 there = (own * vec4(at, 1.0)).xyz;
    world = there;
    gl_Position = view * vec4(there + (eye - there) * nearer, 1.0);
    if (nearer == 0.0) gl_Position.z -= 0.00002 * gl_Position.w;
    gl_ClipDistance[0] = cut_z - there.z;
    gl_ClipDistance[1] = slice_end * gl_Position.w - gl_Position.z;
})";
constexpr const char* k_piece_lines_fragment = R"(#version 330 core
in vec3 world;
uniform vec4 ink, hole; uniform vec3 eye, ahead; uniform float hole_ground;
out vec4 result;
void main() {
    bool through = distance(gl_FragCoord.xy, hole.xy) < hole.z && dot(world - eye, ahead) < hole.w && world.z > hole_ground;
    result = vec4(ink.rgb, ink.a * (through ? 0.3 : 1.0));
})";

constexpr const char* k_piece_depth_vertex = R"(#version 330 core
layout(location = 0) in vec3 at;
layout(location = 4) in mat4 own;
uniform mat4 view;
void main() { gl_Position = view * own * vec4(at, 1.0); })";
constexpr const char* k_piece_depth_fragment = R"(#version 330 core
void main() {})";

struct Vertex {
    float at[3], normal[3], color[3], place[2];
};

void put(float* to, const Vec3& from) {
    for (int axis = 0; axis < 3; ++axis) to[axis] = float(from[axis]);
}

double srgb_of(double linear) {
    const double v = std::clamp(linear, 0.0, 1.0);
    return v <= 0.0031308 ? v * 12.92 : 1.055 * std::pow(v, 1 / 2.4) - 0.055;
}

} // namespace

Vec3 shown_color(const Model& model, int material, const Project& project) {
    constexpr Vec3 k_stone(0xBD / 255.0, 0xB6 / 255.0, 0xA9 / 255.0);
    if (material < 0) return k_stone;
    const ModelMaterial& own = model.materials[size_t(material)];
    if (own.of_project) {
        const Material* of_project = find_material(project, {own.name});
        return of_project ? Vec3(of_project->color[0], of_project->color[1], of_project->color[2]) / 255.0
                          : k_stone;
    }
    return {srgb_of(own.color[0]), srgb_of(own.color[1]), srgb_of(own.color[2])};
}

void PieceRenderer::initialize() {
    initializeOpenGLFunctions();
    const auto build = [](QOpenGLShaderProgram& program, const char* vertex, const char* fragment) {
        program.addShaderFromSourceCode(QOpenGLShader::Vertex, vertex);
        program.addShaderFromSourceCode(QOpenGLShader::Fragment, with_lights(fragment));
        program.link();
    };
    build(faces_program_, k_piece_faces_vertex, k_piece_faces_fragment);
    build(depth_program_, k_piece_depth_vertex, k_piece_depth_fragment);
    build(lines_program_, k_piece_lines_vertex, k_piece_lines_fragment);
}

void PieceRenderer::release() { cards_.clear(), textures_.clear(), sent_.reset(); }

std::shared_ptr<QOpenGLTexture>
PieceRenderer::texture_of(const std::shared_ptr<const PictureBytes>& picture) {
    auto& [of, known] = textures_[picture.get()];
    if (auto texture = known.lock()) return texture;
    of = picture;
    const QImage image =
        QImage::fromData(reinterpret_cast<const uchar*>(picture->bytes.data()), int(picture->bytes.size()));
    if (image.isNull()) return nullptr;
    auto texture = std::make_shared<QOpenGLTexture>(image); // its first row is that of places 0
    texture->setMinificationFilter(QOpenGLTexture::LinearMipMapLinear);
    texture->setWrapMode(QOpenGLTexture::Repeat);
    known = texture;
    return texture;
}

void PieceRenderer::add_places(Batch& batch, OnCard& card, int first_location) {
    QOpenGLVertexArrayObject::Binder bind(&batch.array);
    card.places.bind();
    for (int column = 0; column < 4; ++column) {
        const GLuint location = GLuint(first_location + column);
        glEnableVertexAttribArray(location);
        glVertexAttribPointer(location, 4, GL_FLOAT, GL_FALSE, sizeof(glm::mat4),
                              reinterpret_cast<void*>(size_t(column) * sizeof(glm::vec4)));
        glVertexAttribDivisor(location, 1);
    }
    card.places.release();
}

void PieceRenderer::add_faces(OnCard& card, const PieceBody& body, const Project& project) {
    std::map<int, std::vector<Vertex>> by_picture;
    for (const ModelPart& part : body.model.parts) {
        const int picture = part.material < 0 ? -1 : body.model.materials[size_t(part.material)].picture;
        const Vec3 color = shown_color(body.model, part.material, project);
        std::vector<Vertex>& into =
            by_picture[part.picture_places.size() == part.points.size() ? picture : -1];
        for (const auto& t : part.triangles) {
            const Vec3 flat =
                glm::cross(part.points[t[1]] - part.points[t[0]], part.points[t[2]] - part.points[t[0]]);
            const double length = glm::length(flat);
            for (const uint32_t i : t) {
                Vertex v{};
                put(v.at, part.points[i]);
                put(v.normal, part.normals.size() == part.points.size() ? part.normals[i]
                              : length > 0                              ? flat / length
                                                                        : Vec3(0, 0, 1));
                Vec3 own = color;
                if (part.colors.size() == part.points.size())
                    own *= Vec3(part.colors[i][0], part.colors[i][1], part.colors[i][2]);
                put(v.color, own);
                if (part.picture_places.size() == part.points.size())
                    v.place[0] = float(part.picture_places[i].x),
                    v.place[1] = float(part.picture_places[i].y);
                into.push_back(v);
            }
        }
    }
    for (const auto& [picture, vertices] : by_picture) {
        Faces faces{std::make_unique<Batch>(),
                    picture < 0 ? nullptr : texture_of(body.model.pictures[size_t(picture)])};
        Batch& batch = *faces.batch;
        batch.array.create(), batch.buffer.create();
        QOpenGLVertexArrayObject::Binder bind(&batch.array);
        batch.buffer.bind();
        batch.buffer.allocate(vertices.data(), int(vertices.size() * sizeof(Vertex)));
        for (const auto& [location, size, offset] :
             {std::array{0, 3, 0}, {1, 3, 12}, {2, 3, 24}, {3, 2, 36}}) {
            glEnableVertexAttribArray(GLuint(location));
            glVertexAttribPointer(GLuint(location), size, GL_FLOAT, GL_FALSE, sizeof(Vertex),
                                  reinterpret_cast<void*>(size_t(offset)));
        }
        batch.buffer.release();
        batch.count = int(vertices.size());
        bind.release();
        add_places(batch, card, 4);
        card.faces.push_back(std::move(faces));
    }
}

PieceRenderer::OnCard& PieceRenderer::on_card(const std::shared_ptr<const Piece>& piece,
                                              const Project& project) {
    auto& card = cards_[piece.get()];
    if (card && card->materials == project.materials) return *card;
    card = std::make_unique<OnCard>();
    card->piece = piece, card->materials = project.materials;
    card->places.create();
    PieceBody stand_in;
    const PieceBody* body = piece && piece->body ? piece->body.get() : &stand_in;
    if (body == &stand_in) {
        // What could not be read is drawn by its edges alone, as large as it was said to be.
        const Box3 box = piece ? own_box(*piece) : Box3{Vec3(-0.5, -0.5, 0), Vec3(0.5, 0.5, 1)};
        ModelPart part;
        for (int i = 0; i < 8; ++i)
            part.points.push_back({(i & 1 ? box.high : box.low).x, (i & 2 ? box.high : box.low).y,
                                   (i & 4 ? box.high : box.low).z});
        for (const auto& [a, b, c, d] : {std::array<uint32_t, 4>{0, 2, 3, 1},
                                         {4, 5, 7, 6},
                                         {0, 1, 5, 4},
                                         {2, 6, 7, 3},
                                         {0, 4, 6, 2},
                                         {1, 3, 7, 5}})
            part.triangles.push_back({a, b, c}), part.triangles.push_back({a, c, d});
        stand_in.model.parts.push_back(std::move(part));
    } else {
        add_faces(*card, *body, project);
    }
    std::vector<float> lines;
    for (const Vec3& p : body == &stand_in ? edges_of(stand_in.model) : body->edges)
        for (int axis = 0; axis < 3; ++axis) lines.push_back(float(p[axis]));
    card->lines.array.create(), card->lines.buffer.create();
    QOpenGLVertexArrayObject::Binder bind(&card->lines.array);
    card->lines.buffer.bind();
    card->lines.buffer.allocate(lines.data(), int(lines.size() * sizeof(float)));
    glEnableVertexAttribArray(0);
    glVertexAttribPointer(0, 3, GL_FLOAT, GL_FALSE, 3 * sizeof(float), nullptr);
    card->lines.buffer.release();
    card->lines.count = int(lines.size() / 3);
    bind.release();
    add_places(card->lines, *card, 4);
    return *card;
}

void PieceRenderer::set_places(const PieceScene& scene, const Project& project) {
    for (auto& [piece, card] : cards_) card->count = 0;
    for (const PieceScene::Kind& kind : scene.kinds) {
        OnCard& card = on_card(kind.piece, project);
        card.places.bind();
        card.places.allocate(kind.matrices.data(), int(kind.matrices.size() * sizeof(glm::mat4)));
        card.places.release();
        card.count = int(kind.matrices.size());
    }
    std::erase_if(cards_, [](const auto& one) { return one.second->count == 0; });
}

void PieceRenderer::send(const std::shared_ptr<const PieceScene>& scene, const Project& project) {
    if (!scene || (scene->places.empty() && cards_.empty())) return;
    const bool recolored = !cards_.empty() && !(cards_.begin()->second->materials == project.materials);
    if (scene != sent_ || recolored) set_places(*scene, project), sent_ = scene;
}

void PieceRenderer::draw_depth(const glm::mat4& view) {
    depth_program_.bind();
    set_matrix(depth_program_, "view", view);
    for (auto& [piece, card] : cards_)
        for (Faces& faces : card->faces) {
            QOpenGLVertexArrayObject::Binder bind(&faces.batch->array);
            glDrawArraysInstanced(GL_TRIANGLES, 0, faces.batch->count, card->count);
        }
    depth_program_.release();
}

void PieceRenderer::draw(const std::shared_ptr<const PieceScene>& scene, const Project& project,
                         const Camera& camera, const Renderer::Look& look) {
    if (!scene || (scene->places.empty() && cards_.empty())) return;
    send(scene, project);
    const glm::mat4 view = camera.matrix();
    const QColor back = camera.flat() ? color::paper : color::sky;
    glEnable(GL_DEPTH_TEST);
    glEnable(GL_CLIP_DISTANCE0);
    glEnable(GL_CLIP_DISTANCE0 + 1);
    if (look.mode != ViewMode::wire && look.mode != ViewMode::collision) {
        faces_program_.bind();
        set_matrix(faces_program_, "view", view);
        faces_program_.setUniformValue("cut_z", float(look.cut_z));
        faces_program_.setUniformValue("slice_end", float(camera.slice_end()));
        faces_program_.setUniformValue("module", float(look.module_m));
        faces_program_.setUniformValue("ratio", float(look.pixel_ratio));
        faces_program_.setUniformValue("max_slope",
                                       look.mode == ViewMode::slope ? float(look.max_slope_deg) : -1.0f);
        faces_program_.setUniformValue("paper", QVector3D(back.redF(), back.greenF(), back.blueF()));
        set_eye(faces_program_, camera, look);
        const bool dressed = look.dressed && look.mode == ViewMode::plain;
        set_lights(faces_program_, camera, dressed ? look.lights : std::vector<Light>{}, look.eye,
                   look.shadows);
        faces_program_.setUniformValue("toward", vector_of(camera.forward()));
        faces_program_.setUniformValue("flat_view", camera.flat() ? 1.0f : 0.0f);
        faces_program_.setUniformValue("picture", 0);
        for (auto& [piece, card] : cards_)
            for (Faces& faces : card->faces) {
                faces_program_.setUniformValue("with_picture", faces.texture ? 1.0f : 0.0f);
                if (faces.texture) faces.texture->bind();
                QOpenGLVertexArrayObject::Binder bind(&faces.batch->array);
                glDrawArraysInstanced(GL_TRIANGLES, 0, faces.batch->count, card->count);
                if (faces.texture) faces.texture->release();
            }
        faces_program_.release();
    }
    lines_program_.bind();
    set_matrix(lines_program_, "view", view);
    lines_program_.setUniformValue("cut_z", float(look.cut_z));
    lines_program_.setUniformValue("slice_end", float(camera.slice_end()));
    set_eye(lines_program_, camera, look);
    glEnable(GL_BLEND);
    glBlendFuncSeparate(GL_SRC_ALPHA, GL_ONE_MINUS_SRC_ALPHA, GL_ZERO, GL_ONE);
    for (auto& [piece, card] : cards_) {
        const bool there = piece && piece->body;
        const QColor ink = there ? QColor(0x5A, 0x54, 0x4B) : color::plum;
        lines_program_.setUniformValue(
            "ink", QVector4D(ink.redF(), ink.greenF(), ink.blueF(), there ? look.edge_ink() : 1.0f));
        QOpenGLVertexArrayObject::Binder bind(&card->lines.array);
        glDrawArraysInstanced(GL_LINES, 0, card->lines.count, card->count);
    }
    lines_program_.release();
    glDisable(GL_BLEND);
}

} // namespace rubble::app
