#include "view/tile_renderer.h"

#include <algorithm>

#include <glm/gtc/type_ptr.hpp>

#include <QMatrix4x4>

#include "level/item_search.h"
#include "theme.h"

namespace rubble::app {

namespace {

constexpr int k_page_cells = 512, k_places_wide = 1024;
constexpr int k_most_numbers = 1 << 20;

constexpr const char* k_vertex = R"(#version 330 core
uniform mat4 view; uniform vec3 corner, right, down;
uniform float cells;
out vec2 cell;
void main() {
    vec2 part = vec2(gl_VertexID & 1, gl_VertexID >> 1);
    cell = part * cells;
    gl_Position = view * vec4(corner + right * part.x + down * part.y, 1.0);
})";

// A cell's bits: the number and 1 in the upper 28, by hand, mirrored, quarter turns.
constexpr const char* k_fragment = R"(#version 330 core
in vec2 cell;
uniform usampler2D tiles; uniform sampler2D picture; uniform isampler2D places;
uniform ivec2 cell_px; uniform int numbers, places_wide;
uniform bool has_sheet; uniform vec4 plain, line; uniform float opacity;
out vec4 result;
void main() {
    ivec2 at = ivec2(floor(cell));
    uint bits = texelFetch(tiles, clamp(at, ivec2(0), textureSize(tiles, 0) - 1), 0).r;
    if (bits == 0u) discard;
    vec2 p = cell - vec2(at);
    vec2 width = fwidth(cell);
    vec4 c = plain;
    int number = int(bits >> 4u) - 1;
    ivec2 place = ivec2(-1);
    if (has_sheet && number < numbers)
        place = texelFetch(places, ivec2(number % places_wide, number / places_wide), 0).rg;
    if (place.x >= 0) {
        p.y = 1.0 - p.y; // upwards
        uint turns = bits & 3u;
        for (uint i = 0u; i < turns; ++i) p = vec2(p.y, 1.0 - p.x);
        if ((bits & 4u) != 0u) p.x = 1.0 - p.x;
        p.y = 1.0 - p.y;
        ivec2 pixel = clamp(ivec2(floor(p * vec2(cell_px))), ivec2(0), cell_px - 1);
        c = texelFetch(picture, place + pixel, 0);
    } else {
        vec2 d = min(p, 1.0 - p) / max(width, vec2(1e-6));
        float near = 1.0 - clamp(min(d.x, d.y), 0.0, 1.0);
        c = mix(plain, line, near * clamp(1.0 - max(width.x, width.y) * 4.0, 0.0, 1.0));
    }
    if (c.a * opacity < 0.004) discard;
    result = vec4(c.rgb, c.a * opacity);
})";

// As often to the right and up as it repeats, `first` and `count` in whole pictures.
constexpr const char* k_picture_vertex = R"(#version 330 core
uniform mat4 view; uniform vec3 corner, right, up;
uniform vec2 first, count;
out vec2 place;
void main() {
    place = first + vec2(gl_VertexID & 1, gl_VertexID >> 1) * count;
    gl_Position = view * vec4(corner + right * place.x + up * place.y, 1.0);
})";

constexpr const char* k_picture_fragment = R"(#version 330 core
in vec2 place;
uniform sampler2D picture; uniform ivec4 box_px; uniform bool mirrored; uniform float opacity;
out vec4 result;
void main() {
    vec2 p = fract(place);
    if (mirrored) p.x = 1.0 - p.x;
    ivec2 pixel = ivec2(floor(vec2(p.x, 1.0 - p.y) * vec2(box_px.zw)));
    vec4 c = texelFetch(picture, box_px.xy + clamp(pixel, ivec2(0), box_px.zw - 1), 0);
    if (c.a * opacity < 0.004) discard;
    result = vec4(c.rgb, c.a * opacity);
})";

QVector4D vector_of(const QColor& c) { return {c.redF(), c.greenF(), c.blueF(), 1}; }

/// Rounds down where an index lies below 0 too.
int page_of(int cell) { return cell >= 0 ? cell / k_page_cells : (cell + 1) / k_page_cells - 1; }

void set_vector(QOpenGLShaderProgram& program, const char* name, const Vec3& v) {
    program.setUniformValue(name, QVector3D(float(v.x), float(v.y), float(v.z)));
}

} // namespace

std::vector<size_t> tile_layers_by_depth(const Level& level) {
    std::vector<size_t> out;
    for (size_t i = 0; i < level.layers.size(); ++i)
        if (level.layers[i]->tiles && !is_hidden(level, *level.layers[i])) out.push_back(i);
    std::stable_sort(out.begin(), out.end(), [&](size_t a, size_t b) {
        return (*level.layers[a]->tiles)->depth > (*level.layers[b]->tiles)->depth;
    });
    return out;
}

void TileRenderer::initialize() {
    initializeOpenGLFunctions();
    program_.addShaderFromSourceCode(QOpenGLShader::Vertex, k_vertex);
    program_.addShaderFromSourceCode(QOpenGLShader::Fragment, k_fragment);
    program_.link();
    picture_program_.addShaderFromSourceCode(QOpenGLShader::Vertex, k_picture_vertex);
    picture_program_.addShaderFromSourceCode(QOpenGLShader::Fragment, k_picture_fragment);
    picture_program_.link();
    nothing_.create();
}

void TileRenderer::release() {
    for (auto& [id, layer] : layers_)
        for (auto& [at, page] : layer.pages) glDeleteTextures(1, &page.texture);
    for (auto& [of, sheet] : sheets_) {
        const std::array<unsigned, 2> textures{sheet.picture, sheet.places};
        glDeleteTextures(2, textures.data());
    }
    layers_.clear(), sheets_.clear();
}

TileRenderer::Page& TileRenderer::page_at(LayerPages& layer, std::pair<int, int> at) {
    Page& page = layer.pages[at];
    if (page.texture != 0) return page;
    glGenTextures(1, &page.texture);
    glBindTexture(GL_TEXTURE_2D, page.texture);
    const std::vector<uint32_t> empty(size_t(k_page_cells) * k_page_cells, 0);
    glTexImage2D(GL_TEXTURE_2D, 0, GL_R32UI, k_page_cells, k_page_cells, 0, GL_RED_INTEGER, GL_UNSIGNED_INT,
                 empty.data());
    glTexParameteri(GL_TEXTURE_2D, GL_TEXTURE_MIN_FILTER, GL_NEAREST);
    glTexParameteri(GL_TEXTURE_2D, GL_TEXTURE_MAG_FILTER, GL_NEAREST);
    return page;
}

void TileRenderer::send(LayerPages& layer, const TileGrid& grid) {
    static_assert(sizeof(Tile) == 4 && k_page_cells % chunk_cells == 0);
    glPixelStorei(GL_UNPACK_ALIGNMENT, 4);
    TileGrid::for_each_changed_chunk(layer.sent, grid, [&](const TileBox& cells) {
        const std::pair at{page_of(cells.low.column), page_of(cells.low.row)};
        glBindTexture(GL_TEXTURE_2D, page_at(layer, at).texture);
        const auto* chunk = grid.chunk(chunk_of(cells.low.column), chunk_of(cells.low.row));
        const TileGrid::Chunk empty{};
        glTexSubImage2D(GL_TEXTURE_2D, 0, cells.low.column - at.first * k_page_cells,
                        cells.low.row - at.second * k_page_cells, chunk_cells, chunk_cells, GL_RED_INTEGER,
                        GL_UNSIGNED_INT, chunk ? (**chunk).data() : empty.data());
    });
    layer.sent = grid;
}

const TileRenderer::SheetTextures* TileRenderer::textures_of(const std::shared_ptr<const TileSheet>& sheet) {
    if (!sheet || !sheet->picture) return nullptr;
    SheetTextures& known = sheets_[sheet.get()];
    known.drawn = frame_;
    if (known.of) return &known;
    known.of = sheet;
    const auto make = [&](unsigned& texture) {
        glGenTextures(1, &texture);
        glBindTexture(GL_TEXTURE_2D, texture);
        glTexParameteri(GL_TEXTURE_2D, GL_TEXTURE_MIN_FILTER, GL_NEAREST);
        glTexParameteri(GL_TEXTURE_2D, GL_TEXTURE_MAG_FILTER, GL_NEAREST);
    };
    make(known.picture);
    const Picture& picture = *sheet->picture;
    glPixelStorei(GL_UNPACK_ALIGNMENT, 4);
    glTexImage2D(GL_TEXTURE_2D, 0, GL_RGBA8, picture.width, picture.height, 0, GL_RGBA, GL_UNSIGNED_BYTE,
                 picture.rgba.data());
    make(known.places);
    const int numbers = std::min(next_tile_number(*sheet), k_most_numbers);
    const int rows = numbers / k_places_wide + 1;
    std::vector<std::array<int32_t, 2>> places(size_t(rows) * k_places_wide, {-1, -1});
    for (const auto& [number, tile] : sheet->tiles) {
        const auto [left, top, width, height] = pixels_of(*sheet, tile);
        const bool on_it = left + width <= picture.width && top + height <= picture.height;
        if (number < numbers && on_it) places[size_t(number)] = {left, top};
    }
    glTexImage2D(GL_TEXTURE_2D, 0, GL_RG32I, k_places_wide, rows, 0, GL_RG_INTEGER, GL_INT, places.data());
    return &known;
}

void TileRenderer::draw_layer(const Level& level, const TileLayer& layer, const LayerPages& pages,
                              const Vec3& shift) {
    const FrameLayout layout = layout_of(level.frame);
    const Vec3 right = along(layout.right) * (layer.cell_m * k_page_cells),
               down = -along(layout.ahead) * (layer.cell_m * k_page_cells);
    const SheetTextures* sheet = textures_of(layer.sheet);
    program_.setUniformValue("has_sheet", sheet != nullptr);
    program_.setUniformValue("opacity", float(layer.opacity));
    program_.setUniformValue("plain", vector_of(layer.solid ? color::stone : color::stone.lighter(120)));
    program_.setUniformValue("line", vector_of(color::stone.darker(115)));
    if (sheet) {
        program_.setUniformValue("numbers", std::min(next_tile_number(*layer.sheet), k_most_numbers));
        glUniform2i(program_.uniformLocation("cell_px"), layer.sheet->cut.cell_px[0],
                    layer.sheet->cut.cell_px[1]);
        glActiveTexture(GL_TEXTURE1);
        glBindTexture(GL_TEXTURE_2D, sheet->picture);
        glActiveTexture(GL_TEXTURE2);
        glBindTexture(GL_TEXTURE_2D, sheet->places);
        glActiveTexture(GL_TEXTURE0);
    }
    for (const auto& [at, page] : pages.pages) {
        const Vec3 corner =
            place_of(layer, level.frame, {at.first * k_page_cells, at.second * k_page_cells}, {0, 1}) + shift;
        set_vector(program_, "corner", corner);
        set_vector(program_, "right", right);
        set_vector(program_, "down", down);
        glBindTexture(GL_TEXTURE_2D, page.texture);
        glDrawArrays(GL_TRIANGLE_STRIP, 0, 4);
    }
}

void TileRenderer::draw_picture(const PlacedPicture& picture, const Vec3& shift) {
    const SheetTile* tile = picture.sheet ? picture.sheet->tile(picture.number) : nullptr;
    const SheetTextures* sheet = tile ? textures_of(picture.sheet) : nullptr;
    if (!sheet) return;
    const PictureSides sides = sides_of(picture);
    const auto [left, top, width, height] = pixels_of(*picture.sheet, *tile);
    constexpr float k_often = 512; // farther than one looks
    const bool across = picture.repeats_right, upwards = picture.repeats_up;
    set_vector(picture_program_, "corner", sides.corner + shift);
    set_vector(picture_program_, "right", sides.right);
    set_vector(picture_program_, "up", sides.up);
    picture_program_.setUniformValue("first",
                                     QVector2D(across ? -k_often / 2 : 0, upwards ? -k_often / 2 : 0));
    picture_program_.setUniformValue("count", QVector2D(across ? k_often : 1, upwards ? k_often : 1));
    glUniform4i(picture_program_.uniformLocation("box_px"), left, top, width, height);
    picture_program_.setUniformValue("mirrored", picture.mirrored);
    picture_program_.setUniformValue("opacity", float(picture.opacity));
    glActiveTexture(GL_TEXTURE1);
    glBindTexture(GL_TEXTURE_2D, sheet->picture);
    glActiveTexture(GL_TEXTURE0);
    glDrawArrays(GL_TRIANGLE_STRIP, 0, 4);
}

void TileRenderer::drop_unused() {
    std::erase_if(layers_, [&](auto& one) {
        if (one.second.drawn == frame_) return false;
        for (auto& [at, page] : one.second.pages) glDeleteTextures(1, &page.texture);
        return true;
    });
    std::erase_if(sheets_, [&](auto& one) {
        if (one.second.drawn == frame_) return false;
        const std::array<unsigned, 2> textures{one.second.picture, one.second.places};
        glDeleteTextures(2, textures.data());
        return true;
    });
}

namespace {

/// What is drawn of a level: a layer of tiles, or a picture.
struct Drawn {
    double depth;
    size_t layer;
    const PlacedPicture* picture;
};

/// All that is seen, those behind first; of one depth the later layer lies before, and in it pictures.
std::vector<Drawn> drawn_of(const Level& level) {
    std::vector<Drawn> out;
    for (const size_t i : tile_layers_by_depth(level))
        out.push_back({(*level.layers[i]->tiles)->depth, i, nullptr});
    for (size_t i = 0; i < level.layers.size(); ++i) {
        if (is_hidden(level, *level.layers[i])) continue;
        const std::function<void(const ItemList&)> add = [&](const ItemList& items) {
            for (const ItemPtr& item : items) {
                if (item->hidden) continue;
                const PlacedPicture* picture = item->picture();
                if (picture) out.push_back({picture->upright ? picture->at.y : -picture->at.z, i, picture});
                if (const ItemList* members = members_of(*item)) add(*members);
            }
        };
        add(level.layers[i]->items);
    }
    std::stable_sort(out.begin(), out.end(), [](const Drawn& a, const Drawn& b) {
        return a.depth != b.depth ? a.depth > b.depth : a.layer < b.layer;
    });
    return out;
}

} // namespace

void TileRenderer::draw(const Level& level, const Camera& camera, bool moves) {
    const std::vector<Drawn> order = drawn_of(level);
    if (order.empty() && layers_.empty() && sheets_.empty()) return;
    ++frame_;
    for (const Drawn& one : order) {
        if (one.picture) continue;
        LayerPages& pages = layers_[level.layers[one.layer]->id];
        pages.drawn = frame_;
        send(pages, (*level.layers[one.layer]->tiles)->grid);
    }
    const glm::mat4 view = camera.matrix();
    const QMatrix4x4 matrix = QMatrix4x4(glm::value_ptr(view)).transposed();
    for (QOpenGLShaderProgram* program : {&program_, &picture_program_}) {
        program->bind();
        program->setUniformValue("view", matrix);
        program->setUniformValue("picture", 1);
    }
    program_.bind();
    program_.setUniformValue("tiles", 0);
    program_.setUniformValue("places", 2);
    program_.setUniformValue("places_wide", k_places_wide);
    program_.setUniformValue("cells", float(k_page_cells));
    glEnable(GL_DEPTH_TEST);
    glEnable(GL_BLEND);
    glBlendFuncSeparate(GL_SRC_ALPHA, GL_ONE_MINUS_SRC_ALPHA, GL_ZERO, GL_ONE);
    QOpenGLVertexArrayObject::Binder bind(&nothing_);
    const FrameLayout layout = layout_of(level.frame);
    // Of layers of one depth the later one lies before.
    constexpr double k_before_m = 1e-3;
    const Vec3 behind = level.frame == Frame::plan ? Vec3(0, 0, -1) : along(layout.out);
    const auto left_behind = [&](const Vec3& from, Vec2 parallax) {
        if (!moves) return Vec3(0);
        const Vec3 away = camera.target - from;
        return along(layout.right) * (away[layout.right] * (1 - parallax.x)) +
               along(layout.ahead) * (away[layout.ahead] * (1 - parallax.y));
    };
    for (const Drawn& one : order) {
        const Vec3 before = behind * (-k_before_m * double(one.layer + 1));
        if (one.picture) {
            picture_program_.bind();
            draw_picture(*one.picture, before + left_behind(one.picture->at, one.picture->parallax));
            continue;
        }
        program_.bind();
        const TileLayer& layer = **level.layers[one.layer]->tiles;
        draw_layer(level, layer, layers_[level.layers[one.layer]->id],
                   before + behind * layer.depth + left_behind(layer.origin, layer.parallax));
    }
    drop_unused();
    program_.release();
    glDisable(GL_BLEND);
    glDisable(GL_DEPTH_TEST);
}

} // namespace rubble::app
