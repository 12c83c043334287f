#include "parcel/plan_drawing.h"

#include <algorithm>
#include <cmath>
#include <memory>

#include <cairo-pdf.h>
#include <cairo-svg.h>
#include <cairo.h>

namespace rubble::parcel {

namespace {

/// Points (1/72 inch) of a sheet of A3 across, its margin, and what is kept free for title and scale.
constexpr double k_wide = 1191, k_high = 842, k_margin = 42, k_head = 34, k_foot = 40;

struct Ink {
    double r, g, b;
};
constexpr Ink k_dark{0.20, 0.18, 0.16}, k_text{0.15, 0.14, 0.12}, k_line{0.62, 0.58, 0.52},
    k_accent{0.10, 0.42, 0.44};

using Surface = std::unique_ptr<cairo_surface_t, void (*)(cairo_surface_t*)>;
using Context = std::unique_ptr<cairo_t, void (*)(cairo_t*)>;

class Sheet {
public:
    Sheet(cairo_t* to, const Plan& plan) : to_(to), plan_(plan) {
        const Vec2 size = plan.box.empty() ? Vec2(1) : glm::max(plan.box.high - plan.box.low, Vec2(1));
        scale_ =
            std::min((k_wide - 2 * k_margin) / size.x, (k_high - 2 * k_margin - k_head - k_foot) / size.y);
        middle_ = plan.box.empty() ? Vec2(0) : (plan.box.low + plan.box.high) * 0.5;
    }

    void draw() {
        ink({1, 1, 1});
        cairo_paint(to_);
        floors();
        for (const Plan::Area& area : plan_.cut) {
            outline(area);
            ink(k_dark);
            cairo_fill_preserve(to_);
            cairo_set_line_width(to_, 0.5);
            cairo_stroke(to_);
        }
        for (const Plan::Line& line : plan_.dimensions) dimension(line);
        for (const Plan::Mark& mark : plan_.marks) element(mark);
        head();
        scale_bar();
    }

private:
    void ink(const Ink& ink) { cairo_set_source_rgb(to_, ink.r, ink.g, ink.b); }
    Vec2 on_sheet(Vec2 p) const {
        return {k_wide / 2 + (p.x - middle_.x) * scale_, k_head + k_margin +
                                                             (k_high - 2 * k_margin - k_head - k_foot) / 2 -
                                                             (p.y - middle_.y) * scale_};
    }
    void outline(const Plan::Area& area) {
        for (const Vec2& corner : area.corners) {
            const Vec2 p = on_sheet(corner);
            cairo_line_to(to_, p.x, p.y);
        }
        cairo_close_path(to_);
    }

    /// The higher, the lighter; each with a thin line where it ends.
    void floors() {
        const double low = plan_.low_m, high = std::max(plan_.high_m, low + 0.5);
        for (const Plan::Area& area : plan_.floors) {
            const double part = std::clamp((area.height_m - low) / (high - low), 0.0, 1.0);
            const double shade = area.height_m < low ? 0.62 : 0.78 + 0.19 * part;
            outline(area);
            cairo_set_source_rgb(to_, shade, shade * 0.985, shade * 0.955);
            cairo_fill_preserve(to_);
            ink(k_line);
            cairo_set_line_width(to_, 0.35);
            cairo_stroke(to_);
        }
    }

    void text(Vec2 at, const std::string& what, double size, double part = 0) {
        cairo_select_font_face(to_, "sans-serif", CAIRO_FONT_SLANT_NORMAL, CAIRO_FONT_WEIGHT_NORMAL);
        cairo_set_font_size(to_, size);
        cairo_text_extents_t room;
        cairo_text_extents(to_, what.c_str(), &room);
        cairo_move_to(to_, at.x - part * room.x_advance, at.y);
        cairo_show_text(to_, what.c_str());
    }

    void dimension(const Plan::Line& line) {
        const Vec2 a = on_sheet(line.from), b = on_sheet(line.to);
        const Vec2 way = (b - a) / std::max(glm::length(b - a), 1e-9), side(-way.y, way.x);
        ink(k_accent);
        cairo_set_line_width(to_, 0.8);
        cairo_move_to(to_, a.x, a.y), cairo_line_to(to_, b.x, b.y);
        for (const Vec2& end : {a, b}) {
            cairo_move_to(to_, end.x - side.x * 4, end.y - side.y * 4);
            cairo_line_to(to_, end.x + side.x * 4, end.y + side.y * 4);
        }
        cairo_stroke(to_);
        text((a + b) * 0.5 - Vec2(0, 4), line.text + " m", 8, 0.5);
    }

    void element(const Plan::Mark& mark) {
        const Vec2 at = on_sheet(mark.at);
        ink(k_accent);
        if (mark.kind == "start" || mark.kind == "goal") {
            cairo_move_to(to_, at.x, at.y - 6), cairo_line_to(to_, at.x + 5, at.y);
            cairo_line_to(to_, at.x, at.y + 6), cairo_line_to(to_, at.x - 5, at.y);
            cairo_close_path(to_);
        } else {
            cairo_arc(to_, at.x, at.y, 3, 0, 2 * 3.14159265358979);
        }
        cairo_fill(to_);
        ink(k_text);
        text(at + Vec2(7, 3), mark.text, 8);
    }

    void head() {
        ink(k_text);
        text({k_margin, k_margin}, plan_.title, 16);
    }

    /// As long as a whole number of metres that reads well.
    void scale_bar() {
        double metres = 1;
        for (const double next : {2.0, 5.0, 10.0, 20.0, 50.0, 100.0, 200.0, 500.0, 1000.0})
            if (metres * scale_ < 90) metres = next;
        const double y = k_high - k_margin, long_pt = metres * scale_;
        ink(k_text);
        cairo_set_line_width(to_, 1.2);
        cairo_move_to(to_, k_margin, y - 4), cairo_line_to(to_, k_margin, y);
        cairo_line_to(to_, k_margin + long_pt, y), cairo_line_to(to_, k_margin + long_pt, y - 4);
        cairo_stroke(to_);
        text({k_margin + long_pt + 6, y}, std::to_string(int(metres)) + " m", 10);
    }

    cairo_t* to_;
    const Plan& plan_;
    double scale_;
    Vec2 middle_;
};

cairo_status_t append(void* to, const unsigned char* bytes, unsigned int count) {
    static_cast<std::string*>(to)->append(reinterpret_cast<const char*>(bytes), count);
    return CAIRO_STATUS_SUCCESS;
}

/// Surfaces are counted as long as the program runs: that number is no part of a drawing.
std::string without_count(std::string svg) {
    const std::string mark = "id=\"surface";
    for (size_t at = svg.find(mark); at != std::string::npos; at = svg.find(mark, at + 1)) {
        const size_t first = at + mark.size(), end = svg.find('"', first);
        if (end != std::string::npos) svg.erase(first, end - first);
    }
    return svg;
}

Result<std::string> finished(cairo_surface_t* surface, std::string text) {
    if (const auto status = cairo_surface_status(surface); status != CAIRO_STATUS_SUCCESS)
        return fail("plan.drawing", "plan", cairo_status_to_string(status));
    return text;
}

} // namespace

Result<std::string> svg_of(const Plan& plan) {
    std::string text;
    const Surface surface(cairo_svg_surface_create_for_stream(append, &text, k_wide, k_high),
                          cairo_surface_destroy);
    cairo_svg_surface_set_document_unit(surface.get(), CAIRO_SVG_UNIT_PT);
    {
        const Context context(cairo_create(surface.get()), cairo_destroy);
        Sheet(context.get(), plan).draw();
    }
    cairo_surface_finish(surface.get());
    return finished(surface.get(), without_count(std::move(text)));
}

Result<std::string> pdf_of(const std::vector<Plan>& plans) {
    std::string text;
    const Surface surface(cairo_pdf_surface_create_for_stream(append, &text, k_wide, k_high),
                          cairo_surface_destroy);
    // The same level makes the same file, whenever it is made.
    cairo_pdf_surface_set_metadata(surface.get(), CAIRO_PDF_METADATA_CREATE_DATE, "2000-01-01T00:00:00Z");
    {
        const Context context(cairo_create(surface.get()), cairo_destroy);
        for (const Plan& plan : plans) {
            Sheet(context.get(), plan).draw();
            cairo_show_page(context.get());
        }
    }
    cairo_surface_finish(surface.get());
    return finished(surface.get(), std::move(text));
}

Result<std::string> png_of(const Plan& plan) {
    constexpr double k_fine = 2; // pixels to the point
    std::string text;
    const Surface surface(
        cairo_image_surface_create(CAIRO_FORMAT_RGB24, int(k_wide * k_fine), int(k_high * k_fine)),
        cairo_surface_destroy);
    const Context context(cairo_create(surface.get()), cairo_destroy);
    cairo_scale(context.get(), k_fine, k_fine);
    Sheet(context.get(), plan).draw();
    cairo_surface_flush(surface.get());
    if (cairo_surface_write_to_png_stream(surface.get(), append, &text) != CAIRO_STATUS_SUCCESS)
        return fail("plan.drawing", "plan", "could not be written as a picture");
    return finished(surface.get(), std::move(text));
}

} // namespace rubble::parcel
