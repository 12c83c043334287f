#include "view/renderer.h"

#include <algorithm>
#include <array>
#include <cstddef>
#include <span>

#include "theme.h"
#include "view/lit.h"
#include "view/uniforms.h"

namespace rubble::app {

namespace {

constexpr const char* k_faces_vertex = R"(#version 330 core
layout(location = 0) in vec3 at;
layout(location = 1) in vec3 normal;
layout(location = 2) in vec3 color;
layout(location = 3) in float rise;
layout(location = 4) in float layer;
layout(location = 5) in vec2 place;
uniform mat4 view;
uniform float cut_z;
out vec3 world; out vec3 facing; out vec3 base; flat out float wall; flat out float picture; out vec2 on_picture;
void main() {
    world = at; facing = normal; base = color; wall = rise; picture = layer; on_picture = place;
    gl_Position = view * vec4(at, 1.0);
    gl_ClipDistance[0] = cut_z - at.z;
    gl_ClipDistance[1] = 1.0; // behind a slice the fragments tell
})";

// Chalk lines every metre and heavier ones every module, drawn about a pixel and a half wide at any
// distance and faded out where they would crowd.
constexpr const char* k_faces_fragment = R"(#version 330 core
in vec3 world; in vec3 facing; in vec3 base; flat in float wall; flat in float picture; in vec2 on_picture;
uniform sampler2DArray pictures;
uniform float has_pictures;
uniform float decal;     // 1: it lies over what is there, and shows its own picture alone
uniform float dressed;   // 1: with the pictures of materials; 0: without
uniform float density;   // dots a metre that are wanted; below 0: they are not told
uniform float dots[64];  // of each picture's side
LIGHTS
uniform float step_up, jump_up; // metres; step_up below 0: walls are not told
uniform float module; uniform float ratio;
uniform float max_slope; // degrees; below 0: slopes are not told
uniform float slice_end; // in depth; behind it only matter that is cut at the slice's front is drawn
uniform vec4 hole;     // on the screen: middle, radius; depth in metres. Radius 0: none
uniform vec3 eye, ahead; uniform float hole_ground;
bool seen_through(vec3 at, float deeper) {
    return distance(gl_FragCoord.xy, hole.xy) < hole.z && dot(at - eye, ahead) < hole.w + deeper &&
           at.z > hole_ground;
}
uniform vec3 paper;
out vec4 result;
float lines(vec2 p, float step) {
    vec2 q = p / step;
    vec2 w = fwidth(q);
    vec2 d = abs(fract(q - 0.5) - 0.5) / max(w, vec2(1e-6));
    float near = 1.0 - min(min(d.x, d.y) / 1.1, 1.0);
    return near * clamp(1.0 - max(w.x, w.y) * 5.0, 0.0, 1.0);
}
void main() {
    // What is seen through leaves a dot in sixteen, so that one knows it is there; of a wall that goes on deeper the
    // inside is not shown.
    if (seen_through(world, gl_FrontFacing ? 0.0 : 2.0) && (mod(gl_FragCoord.x, 4.0) >= 1.0 || mod(gl_FragCoord.y, 4.0) >= 1.0)) discard;
    if (!gl_FrontFacing) {
        float stripe = mod(gl_FragCoord.x + gl_FragCoord.y, 9.0 * ratio);
        vec3 cut = vec3(0.925, 0.902, 0.861);
        result = vec4(stripe < 1.3 * ratio ? vec3(0.36, 0.33, 0.30) : cut, 1.0);
        return;
    }
    if (gl_FragCoord.z * 2.0 - 1.0 > slice_end) {
        result = vec4(paper, 1.0);
        return;
    }
    vec3 n = normalize(facing);
    float light = 0.62 + 0.30 * max(n.z, 0.0) + 0.13 * max(dot(n, normalize(vec3(-0.55, -0.75, 0.3))), 0.0)
                  + 0.05 * max(dot(n, vec3(0.9, 0.2, 0.0)), 0.0);
    if (n.z < -0.5) light = 0.52;
    vec3 shine = light_count > 0 && dressed > 0.5 ? lit(world, n) : vec3(light);
    vec3 a = abs(n);
    vec2 p = a.z > a.x && a.z > a.y ? world.xy : a.x > a.y ? world.yz : world.xz;
    float chalk = (dressed > 0.5 ? 0.0 : 1.0) * (0.26 * lines(p, 1.0) + 0.34 * lines(p, module));
    vec3 stone = base;
    float opacity = 1.0;
    bool pictured = picture < 254.5;
    if (pictured && dressed > 0.5 && has_pictures > 0.5) {
        vec4 shown = texture(pictures, vec3(on_picture, picture));
        stone = decal > 0.5 ? shown.rgb : mix(base, shown.rgb, shown.a);
        if (decal > 0.5 && shown.a < 0.02) discard;
        opacity = decal > 0.5 ? shown.a : 1.0;
    }
    if (pictured && density >= 0.0) {
        // As many dots as wanted: sea green. Fewer: ochre to plum, coarse squares. More: blue, fine ones.
        vec2 there = on_picture * dots[min(int(picture), 63)];
        float side = length(cross(dFdx(world), dFdy(world)));
        float square = abs(dFdx(there.x) * dFdy(there.y) - dFdx(there.y) * dFdy(there.x));
        float off = log2(sqrt(square / max(side, 1e-12)) / max(density, 1e-3));
        vec3 sea = vec3(0.122, 0.541, 0.490), blue = vec3(0.22, 0.42, 0.66);
        vec3 ochre = vec3(0.788, 0.541, 0.106), plum = vec3(0.541, 0.227, 0.4);
        stone = off > 0.0 ? mix(sea, blue, min(off, 1.0)) : mix(mix(sea, ochre, min(-off, 1.0)), plum, clamp(-off - 1.0, 0.0, 1.0));
        vec2 check = floor(there / 16.0);
        stone *= mod(check.x + check.y, 2.0) < 0.5 ? 1.0 : 0.8;
    }
    float slope = degrees(acos(clamp(n.z, -1.0, 1.0)));
    if (max_slope >= 0.0 && slope > 0.5 && slope < 89.0) {
        // Walked: sea green to ochre the steeper it is. Too steep: plum, hatched.
        float part = slope / max(max_slope, 1.0);
        stone = mix(vec3(0.122, 0.541, 0.490), vec3(0.788, 0.541, 0.106), clamp(part, 0.0, 1.0));
        if (slope > max_slope + 0.1)
            stone = mod(gl_FragCoord.x - gl_FragCoord.y, 8.0 * ratio) < 2.5 * ratio ? vec3(0.93)
                                                                                    : vec3(0.541, 0.227, 0.4);
    }
    if (step_up >= 0.0 && wall > 0.0) {
        // Stepped up: sea green. Jumped: ochre with bars. Higher: plum, hatched.
        float x = mod(gl_FragCoord.x - gl_FragCoord.y, 8.0 * ratio), y = mod(gl_FragCoord.y, 6.0 * ratio);
        if (wall <= step_up + 0.001) stone = vec3(0.122, 0.541, 0.490);
        else if (wall <= jump_up + 0.001) stone = y < 2.0 * ratio ? vec3(0.93, 0.84, 0.66) : vec3(0.788, 0.541, 0.106);
        else stone = x < 2.5 * ratio ? vec3(0.93) : vec3(0.541, 0.227, 0.4);
    }
    result = vec4(mix(stone * shine, vec3(1.0), chalk), opacity);
})";

constexpr const char* k_depth_vertex = R"(#version 330 core
layout(location = 0) in vec3 at;
uniform mat4 view;
void main() { gl_Position = view * vec4(at, 1.0); })";
constexpr const char* k_depth_fragment = R"(#version 330 core
void main() {})";

constexpr const char* k_picture_vertex = R"(#version 330 core
layout(location = 0) in vec3 at;
layout(location = 1) in vec2 place;
uniform mat4 view; uniform float cut_z, slice_end;
out vec2 on_picture;
void main() {
    on_picture = place;
    gl_Position = view * vec4(at, 1.0);
    gl_Position.z -= 0.00004 * gl_Position.w;
    gl_ClipDistance[0] = cut_z - at.z;
    gl_ClipDistance[1] = slice_end * gl_Position.w - gl_Position.z;
})";
constexpr const char* k_picture_fragment = R"(#version 330 core
in vec2 on_picture;
uniform sampler2D picture; uniform float opacity;
out vec4 result;
void main() {
    vec4 c = texture(picture, on_picture);
    result = vec4(c.rgb, c.a * opacity);
})";

constexpr const char* k_edges_vertex = R"(#version 330 core
layout(location = 0) in vec3 at;
uniform mat4 view; uniform float cut_z, slice_end;
uniform vec3 eye; uniform float nearer; // drawn nearer to the eye by this part of the distance
uniform float pixels_at_1m; // that a metre takes one metre away; below 0: at any distance
out float pixels_per_m; out vec3 world;
void main() {
    // Lines lie before the faces they bound by a part of their distance: a fixed step in depth would let lines a
    // metre behind a far wall show through it.
    world = at;
    vec4 place = view * vec4(at, 1.0);
    gl_Position = view * vec4(at + (eye - at) * nearer, 1.0);
    if (nearer == 0.0) gl_Position.z -= 0.00002 * gl_Position.w;
    pixels_per_m = pixels_at_1m < 0.0 ? -pixels_at_1m : pixels_at_1m / max(place.w, 0.001);
    gl_ClipDistance[0] = cut_z - at.z;
    gl_ClipDistance[1] = slice_end * gl_Position.w - gl_Position.z;
})";
// Far away lines crowd into a dark patch: there they are fainter.
constexpr const char* k_edges_fragment = R"(#version 330 core
in float pixels_per_m; in vec3 world;
uniform vec4 ink; uniform float crowded; // pixels a metre below which lines begin to fade
uniform vec4 hole;     // on the screen: middle, radius; depth in metres. Radius 0: none
uniform vec3 eye, ahead; uniform float hole_ground;
bool seen_through(vec3 at, float deeper) {
    return distance(gl_FragCoord.xy, hole.xy) < hole.z && dot(at - eye, ahead) < hole.w + deeper &&
           at.z > hole_ground;
}
out vec4 result;
void main() {
    float whole = crowded <= 0.0 ? 1.0 : clamp(pixels_per_m / crowded, 0.25, 1.0);
    result = vec4(ink.rgb, ink.a * whole * (seen_through(world, 0.0) ? 0.3 : 1.0));
})";

constexpr const char* k_tint_vertex = R"(#version 330 core
layout(location = 0) in vec3 at;
layout(location = 1) in float kind;
uniform mat4 view; uniform float cut_z, slice_end;
out vec3 world; flat out float shade;
void main() {
    world = at; shade = kind;
    gl_Position = view * vec4(at + vec3(0.0, 0.0, 0.004), 1.0);
    gl_ClipDistance[0] = cut_z - at.z;
    gl_ClipDistance[1] = slice_end * gl_Position.w - gl_Position.z;
})";
// Reached: plain sea green. No way back or on: ochre dots. Only crouched: hatched.
constexpr const char* k_tint_fragment = R"(#version 330 core
in vec3 world; flat in float shade;
uniform float only; // the kind that is told; below 0: all
uniform vec4 hole;     // on the screen: middle, radius; depth in metres. Radius 0: none
uniform vec3 eye, ahead; uniform float hole_ground;
bool seen_through(vec3 at, float deeper) {
    return distance(gl_FragCoord.xy, hole.xy) < hole.z && dot(at - eye, ahead) < hole.w + deeper &&
           at.z > hole_ground;
}
out vec4 result;
void main() {
    if (seen_through(world, 0.0)) discard;
    if (only >= 0.0 && abs(shade - only) > 0.5) discard;
    if (!gl_FrontFacing) discard; // seen from below, through what is cut
    vec3 sea = vec3(0.122, 0.541, 0.490), ochre = vec3(0.788, 0.541, 0.106);
    if (shade > 9.5) { // what opens up later is bluer, then plum, and lined the more
        float band = shade - 10.0;
        vec3 blue = vec3(0.22, 0.42, 0.66), plum = vec3(0.55, 0.22, 0.42);
        vec3 ink = band < 2.5 ? mix(sea, blue, band / 2.0) : mix(blue, plum, min((band - 2.0) / 3.0, 1.0));
        float line = fract((world.x - world.y + world.z) * 1.5 * max(band, 0.0));
        result = vec4(ink, band > 0.5 && line < 0.25 ? 0.55 : 0.34);
        return;
    }
    if (shade < 0.5) { result = vec4(sea, 0.34); return; }
    if (shade < 1.5) {
        vec2 c = fract(world.xy * 4.0) - 0.5;
        result = dot(c, c) < 0.05 ? vec4(ochre, 0.95) : vec4(ochre, 0.12);
        return;
    }
    float s = fract((world.x + world.y) * 3.0);
    result = vec4(sea, s < 0.35 ? 0.6 : 0.16);
})";

} // namespace

void set_eye(QOpenGLShaderProgram& program, const Camera& camera, const Renderer::Look& look) {
    constexpr float k_nearer = 0.0008f, k_crowded_px = 9;
    program.setUniformValue("eye", vector_of(camera.eye()));
    program.setUniformValue("ahead", vector_of(camera.forward()));
    program.setUniformValue("nearer", camera.flat() ? 0.0f : k_nearer);
    const Projection projection = camera.projection();
    program.setUniformValue("pixels_at_1m",
                            float((camera.flat() ? -look.pixel_ratio : look.pixel_ratio) / projection.unit));
    program.setUniformValue("crowded", look.fades ? k_crowded_px * float(look.pixel_ratio) : 0.0f);
    const SeeThrough hole = look.hole.value_or(SeeThrough{});
    program.setUniformValue("hole",
                            QVector4D(float(hole.middle.x() * look.pixel_ratio),
                                      float((camera.size.height() - hole.middle.y()) * look.pixel_ratio),
                                      float(hole.radius_px * look.pixel_ratio), float(hole.depth_m)));
    program.setUniformValue("hole_ground", float(hole.ground_z));
}

void Renderer::initialize() {
    initializeOpenGLFunctions();
    auto build = [](QOpenGLShaderProgram& program, const char* vertex, const char* fragment) {
        program.addShaderFromSourceCode(QOpenGLShader::Vertex, vertex);
        program.addShaderFromSourceCode(QOpenGLShader::Fragment, with_lights(fragment));
        program.link();
    };
    build(faces_program_, k_faces_vertex, k_faces_fragment);
    build(edges_program_, k_edges_vertex, k_edges_fragment);
    build(tint_program_, k_tint_vertex, k_tint_fragment);
    build(depth_program_, k_depth_vertex, k_depth_fragment);
    build(picture_program_, k_picture_vertex, k_picture_fragment);
    for (Batch* batch : {&cuts_, &decals_, &tint_, &collision_, &picture_}) create(*batch);
    set_face_layout(decals_);
    attribute(picture_, 0, 3, 5 * sizeof(float), 0);
    attribute(picture_, 1, 2, 5 * sizeof(float), 3 * sizeof(float));
    constexpr int tint = sizeof(TintMesh::Vertex);
    attribute(cuts_, 0, 3, sizeof(SceneMesh::Line), 0);
    attribute(collision_, 0, 3, sizeof(SceneMesh::Line), 0);
    attribute(tint_, 0, 3, tint, 0);
    attribute(tint_, 1, 1, tint, 12);
}

void Renderer::create(Batch& batch) {
    batch.array.create();
    batch.buffer.create();
}

void Renderer::attribute(Batch& batch, int location, int size, int stride, int offset, GLenum type) {
    QOpenGLVertexArrayObject::Binder bind(&batch.array);
    batch.buffer.bind();
    glEnableVertexAttribArray(GLuint(location));
    // Colours and directions are parts of the largest number; a single one is itself.
    glVertexAttribPointer(GLuint(location), size, type, size > 1 && type != GL_FLOAT, stride,
                          reinterpret_cast<void*>(size_t(offset)));
    batch.buffer.release();
}

void Renderer::fill(Batch& batch, const void* data, int bytes, int count) {
    batch.buffer.bind();
    batch.buffer.allocate(data, bytes);
    batch.buffer.release();
    batch.count = count;
}

void Renderer::set_face_layout(Batch& batch) {
    using Vertex = SceneMesh::Vertex;
    constexpr int size = sizeof(Vertex);
    attribute(batch, 0, 3, size, offsetof(Vertex, at));
    attribute(batch, 1, 3, size, offsetof(Vertex, normal), GL_SHORT);
    attribute(batch, 2, 3, size, offsetof(Vertex, color), GL_UNSIGNED_BYTE);
    attribute(batch, 3, 1, size, offsetof(Vertex, rise));
    attribute(batch, 4, 1, size, offsetof(Vertex, layer), GL_UNSIGNED_BYTE);
    attribute(batch, 5, 2, size, offsetof(Vertex, place));
}

void Renderer::set_scene(const SceneMesh& mesh) {
    constexpr int face = sizeof(SceneMesh::Vertex), line = sizeof(SceneMesh::Line);
    fill(cuts_, mesh.cut_edges.data(), int(mesh.cut_edges.size()) * line, int(mesh.cut_edges.size()));
    fill(decals_, mesh.decals.data(), int(mesh.decals.size()) * face, int(mesh.decals.size()));
    scene_.resize(mesh.chunks.size());
    for (size_t i = 0; i < scene_.size(); ++i) {
        if (!scene_[i]) {
            scene_[i] = std::make_unique<SceneBatches>();
            create(scene_[i]->faces), create(scene_[i]->edges);
            set_face_layout(scene_[i]->faces);
            attribute(scene_[i]->edges, 0, 3, line, 0);
        }
        const auto& chunk = mesh.chunks[i];
        if (scene_[i]->of == chunk) continue;
        fill(scene_[i]->faces, chunk->faces.data(), int(chunk->faces.size()) * face,
             int(chunk->faces.size()));
        fill(scene_[i]->edges, chunk->edges.data(), int(chunk->edges.size()) * line,
             int(chunk->edges.size()));
        scene_[i]->box = {};
        for (const SceneMesh::Vertex& v : chunk->faces) scene_[i]->box.add(Vec3(v.at[0], v.at[1], v.at[2]));
        scene_[i]->of = chunk;
    }
}

void Renderer::draw_depth(const glm::mat4& view, const Box3& within) {
    depth_program_.bind();
    set_matrix(depth_program_, "view", view);
    for (const auto& chunk : scene_) {
        if (chunk->faces.count == 0 || !chunk->box.touches(within)) continue;
        QOpenGLVertexArrayObject::Binder bind(&chunk->faces.array);
        glDrawArrays(GL_TRIANGLES, 0, chunk->faces.count);
    }
    depth_program_.release();
}

Box3 Renderer::box() const {
    Box3 box;
    for (const auto& chunk : scene_) box.add(chunk->box);
    return box;
}

void Renderer::set_materials(const std::vector<QImage>& images) {
    const auto first =
        std::find_if(images.begin(), images.end(), [](const QImage& i) { return !i.isNull(); });
    if (first == images.end()) return materials_.reset();
    materials_ = std::make_unique<QOpenGLTexture>(QOpenGLTexture::Target2DArray);
    materials_->setFormat(QOpenGLTexture::RGBA8_UNorm);
    materials_->setSize(first->width(), first->height());
    materials_->setLayers(int(images.size()));
    materials_->setMipLevels(materials_->maximumMipLevels());
    materials_->allocateStorage(QOpenGLTexture::RGBA, QOpenGLTexture::UInt8);
    QImage nothing(first->size(), QImage::Format_RGBA8888); // the colour stands in for what is not there yet
    nothing.fill(Qt::transparent);
    for (size_t i = 0; i < images.size(); ++i) {
        const QImage& image = images[i].size() == first->size() ? images[i] : nothing;
        materials_->setData(0, int(i), QOpenGLTexture::RGBA, QOpenGLTexture::UInt8, image.constBits());
    }
    materials_->generateMipMaps();
    materials_->setWrapMode(QOpenGLTexture::Repeat);
    materials_->setMinMagFilters(QOpenGLTexture::LinearMipMapLinear, QOpenGLTexture::Linear);
}

void Renderer::set_tint(const TintMesh& mesh) {
    fill(tint_, mesh.triangles.data(), int(mesh.triangles.size() * sizeof(TintMesh::Vertex)),
         int(mesh.triangles.size()));
}

void Renderer::set_collision(const std::vector<SceneMesh::Line>& lines) {
    fill(collision_, lines.data(), int(lines.size() * sizeof(SceneMesh::Line)), int(lines.size()));
}

void Renderer::draw_pictures(const glm::mat4& view, const std::vector<Picture>& pictures) {
    glEnable(GL_BLEND);
    glBlendFuncSeparate(GL_SRC_ALPHA, GL_ONE_MINUS_SRC_ALPHA, GL_ZERO, GL_ONE);
    glDepthMask(GL_FALSE);
    picture_program_.bind();
    set_matrix(picture_program_, "view", view);
    picture_program_.setUniformValue("picture", 0);
    for (const Picture& picture : pictures) {
        auto& texture = textures_[picture.image->cacheKey()];
        if (!texture) {
            texture = std::make_unique<QOpenGLTexture>(picture.image->mirrored());
            texture->setMinificationFilter(QOpenGLTexture::LinearMipMapLinear);
            texture->setWrapMode(QOpenGLTexture::ClampToEdge);
        }
        std::vector<float> data;
        for (const size_t i : {0, 1, 2, 0, 2, 3}) {
            const Vec3& p = picture.corners[i];
            for (const double value : {p.x, p.y, p.z, i == 1 || i == 2 ? 1.0 : 0.0, i >= 2 ? 1.0 : 0.0})
                data.push_back(float(value));
        }
        fill(picture_, data.data(), int(data.size() * sizeof(float)), 6);
        picture_program_.setUniformValue("opacity", float(picture.opacity));
        texture->bind();
        QOpenGLVertexArrayObject::Binder bind(&picture_.array);
        glDrawArrays(GL_TRIANGLES, 0, picture_.count);
        texture->release();
    }
    picture_program_.release();
    glDepthMask(GL_TRUE);
    glDisable(GL_BLEND);
}

void Renderer::draw(const Camera& camera, const Look& look, const std::vector<Picture>& pictures,
                    const std::function<void()>& draw_tiles) {
    const QColor back = camera.flat() ? color::paper : color::sky;
    glClearColor(back.redF(), back.greenF(), back.blueF(), 1);
    glClear(GL_COLOR_BUFFER_BIT | GL_DEPTH_BUFFER_BIT);
    glEnable(GL_DEPTH_TEST);
    glEnable(GL_CLIP_DISTANCE0);
    glEnable(GL_CLIP_DISTANCE0 + 1);
    glDisable(GL_CULL_FACE);
    const glm::mat4 view = camera.matrix();
    auto draw_batches = [&](QOpenGLShaderProgram& program, std::span<Batch* const> batches, GLenum mode,
                            auto set) {
        program.bind();
        set_matrix(program, "view", view);
        program.setUniformValue("cut_z", float(look.cut_z));
        program.setUniformValue("slice_end", float(camera.slice_end()));
        set_eye(program, camera, look);
        set(program);
        for (Batch* batch : batches) {
            if (batch->count == 0) continue;
            QOpenGLVertexArrayObject::Binder bind(&batch->array);
            glDrawArrays(mode, 0, batch->count);
        }
        program.release();
    };
    auto draw_batch = [&](QOpenGLShaderProgram& program, Batch& batch, GLenum mode, auto set) {
        draw_batches(program, std::array{&batch}, mode, set);
    };
    std::vector<Batch*> faces, edges;
    for (const auto& chunk : scene_) faces.push_back(&chunk->faces), edges.push_back(&chunk->edges);
    const bool shows_faces = look.mode != ViewMode::wire && look.mode != ViewMode::collision;
    const bool has_pictures = materials_ && look.mode == ViewMode::plain;
    const auto set_faces = [&](QOpenGLShaderProgram& p, bool decals) {
        p.setUniformValue("paper", QVector3D(back.redF(), back.greenF(), back.blueF()));
        p.setUniformValue("module", float(look.module_m));
        p.setUniformValue("ratio", float(look.pixel_ratio));
        p.setUniformValue("max_slope", look.mode == ViewMode::slope ? float(look.max_slope_deg) : -1.0f);
        p.setUniformValue("step_up", look.mode == ViewMode::size ? float(look.step_m) : -1.0f);
        p.setUniformValue("jump_up", float(look.jump_m));
        p.setUniformValue("pictures", 0);
        const bool dressed = look.dressed && look.mode == ViewMode::plain;
        p.setUniformValue("dressed", dressed && (has_pictures || !look.lights.empty()) ? 1.0f : 0.0f);
        p.setUniformValue("has_pictures", has_pictures ? 1.0f : 0.0f);
        p.setUniformValue("decal", decals ? 1.0f : 0.0f);
        set_lights(p, camera, dressed ? look.lights : std::vector<Light>{}, look.eye, look.shadows);
        p.setUniformValue("density", look.mode == ViewMode::density ? float(look.dots_per_m) : -1.0f);
        if (!look.picture_dots.empty())
            p.setUniformValueArray("dots", look.picture_dots.data(), int(look.picture_dots.size()), 1);
        if (has_pictures) materials_->bind();
    };
    if (shows_faces)
        draw_batches(faces_program_, faces, GL_TRIANGLES,
                     [&](QOpenGLShaderProgram& p) { set_faces(p, false); });
    if (shows_faces && has_pictures && look.dressed && decals_.count > 0) {
        glEnable(GL_BLEND);
        glBlendFuncSeparate(GL_SRC_ALPHA, GL_ONE_MINUS_SRC_ALPHA, GL_ZERO, GL_ONE);
        glDepthMask(GL_FALSE);
        draw_batch(faces_program_, decals_, GL_TRIANGLES,
                   [&](QOpenGLShaderProgram& p) { set_faces(p, true); });
        glDepthMask(GL_TRUE);
        glDisable(GL_BLEND);
    }
    if (shows_faces && has_pictures) materials_->release();
    // Tiles are ground too: what is said of it lies over them.
    draw_tiles();
    glEnable(GL_DEPTH_TEST);
    if (look.tint && (look.mode == ViewMode::plain || look.mode == ViewMode::size)) {
        glEnable(GL_BLEND);
        glBlendFuncSeparate(GL_SRC_ALPHA, GL_ONE_MINUS_SRC_ALPHA, GL_ZERO, GL_ONE);
        glEnable(GL_POLYGON_OFFSET_FILL);
        glPolygonOffset(-1, -4);
        glDepthMask(GL_FALSE);
        // Among heights only the room overhead matters.
        const float only = look.mode == ViewMode::size ? float(TintKind::low) : -1;
        draw_batch(tint_program_, tint_, GL_TRIANGLES,
                   [&](QOpenGLShaderProgram& p) { p.setUniformValue("only", only); });
        glDisable(GL_POLYGON_OFFSET_FILL);
        glDepthMask(GL_TRUE);
        glDisable(GL_BLEND);
    }
    if (!pictures.empty()) {
        picture_program_.bind();
        picture_program_.setUniformValue("cut_z", float(look.cut_z));
        picture_program_.setUniformValue("slice_end", float(camera.slice_end()));
        draw_pictures(view, pictures);
    }
    glEnable(GL_BLEND);
    glBlendFuncSeparate(GL_SRC_ALPHA, GL_ONE_MINUS_SRC_ALPHA, GL_ZERO, GL_ONE);
    draw_batches(edges_program_, edges, GL_LINES, [&](QOpenGLShaderProgram& p) {
        const QColor ink(0x5A, 0x54, 0x4B);
        p.setUniformValue("ink", QVector4D(ink.redF(), ink.greenF(), ink.blueF(), look.edge_ink()));
    });
    if (look.cuts) {
        // Through matter too: an opening is found wherever it is.
        glDisable(GL_DEPTH_TEST);
        draw_batch(edges_program_, cuts_, GL_LINES, [&](QOpenGLShaderProgram& p) {
            p.setUniformValue("ink",
                              QVector4D(color::ink.redF(), color::ink.greenF(), color::ink.blueF(), 1));
        });
        glEnable(GL_DEPTH_TEST);
    }
    if (look.mode == ViewMode::collision)
        draw_batch(edges_program_, collision_, GL_LINES, [&](QOpenGLShaderProgram& p) {
            p.setUniformValue("ink",
                              QVector4D(color::plum.redF(), color::plum.greenF(), color::plum.blueF(), 1));
        });
    glDisable(GL_BLEND);
    glDisable(GL_CLIP_DISTANCE0);
    glDisable(GL_CLIP_DISTANCE0 + 1);
    glDisable(GL_DEPTH_TEST);
}

} // namespace rubble::app
