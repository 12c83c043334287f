#include <cmath>
#include <cstdio>
#include <memory>

#include <cairo-pdf.h>
#include <cairo.h>

#include "base/base64.h"
#include "parcel/test_report.h"

namespace rubble::parcel {

namespace {

std::string escaped(const std::string& text) {
    std::string out;
    for (const char c : text)
        out += c == '&'   ? "&amp;"
               : c == '<' ? "&lt;"
               : c == '>' ? "&gt;"
               : c == '"' ? "&quot;"
                          : std::string(1, c);
    return out;
}

std::string tenths(double value) {
    char text[32];
    std::snprintf(text, sizeof text, "%.1f", value);
    return text;
}

const char* const k_style = R"(
body { font: 15px/1.45 "Inter", "Segoe UI", sans-serif; color: #26231f; background: #faf8f4; margin: 2rem auto; max-width: 64rem; padding: 0 1rem; }
h1 { font-size: 1.6rem; } h2 { font-size: 1.15rem; margin-top: 2rem; border-bottom: 1px solid #d8d2c6; }
table { border-collapse: collapse; width: 100%; } th, td { text-align: left; padding: .25rem .6rem .25rem 0; vertical-align: top; border-bottom: 1px solid #ece7dc; }
th { font-weight: 600; } td.number { text-align: right; font-variant-numeric: tabular-nums; }
.holds { color: #1f6f64; } .fails { color: #7a2f58; font-weight: 600; } .undecided { color: #8a6414; }
svg, img { width: 100%; height: auto; background: #fff; border: 1px solid #e2dccf; }
)";

/// Drawings in one page must not share the names of their parts.
std::string with_own_ids(std::string svg, size_t number) {
    const std::string own = "p" + std::to_string(number) + "-";
    for (const std::string mark : {"id=\"", "href=\"#", "url(#"})
        for (size_t at = svg.find(mark); at != std::string::npos; at = svg.find(mark, at + mark.size()))
            svg.insert(at + mark.size(), own);
    return svg;
}

std::string html_of(const ReportPart& part) {
    std::string out;
    if (!part.heading.empty()) out += "<h2>" + escaped(part.heading) + "</h2>\n";
    if (!part.text.empty()) out += "<p>" + escaped(part.text) + "</p>\n";
    if (!part.line.empty()) {
        constexpr double k_wide = 1000, k_high = 160, k_edge = 20;
        out += "<svg viewBox=\"0 0 1000 160\" role=\"img\" aria-label=\"Heights of the way over time\">"
               "<polyline fill=\"none\" stroke=\"#1f6f64\" stroke-width=\"2\" points=\"";
        for (const Vec2& p : part.line)
            out += tenths(k_edge + (k_wide - 2 * k_edge) * p.x) + "," +
                   tenths(k_high - k_edge - (k_high - 2 * k_edge) * p.y) + " ";
        out += "\"/></svg>\n";
    }
    if (part.rows.empty()) return out;
    out += "<table>\n<tr>";
    for (const std::string& column : part.columns) out += "<th>" + escaped(column) + "</th>";
    out += "</tr>\n";
    for (const ReportPart::Row& row : part.rows) {
        out += "<tr>";
        for (size_t i = 0; i < row.cells.size(); ++i)
            out += (i == 0 && !row.kind.empty() ? "<td class=\"" + row.kind + "\">" : std::string("<td>")) +
                   escaped(row.cells[i]) + "</td>";
        out += "</tr>\n";
    }
    return out + "</table>\n";
}

/// Lays words, tables and lines one below the other onto pages of A4 upright.
class Pages {
public:
    explicit Pages(cairo_t* to) : to_(to) {}

    void title(const std::string& text) {
        size(18, true);
        paragraph(text, k_left, k_wide - 2 * k_left);
    }
    void part(const ReportPart& part) {
        if (!part.heading.empty()) {
            room_for(60);
            y_ += 14;
            size(12, true);
            paragraph(part.heading, k_left, k_wide - 2 * k_left);
        }
        size(9, false);
        if (!part.text.empty()) paragraph(part.text, k_left, k_wide - 2 * k_left);
        if (!part.line.empty()) line(part.line);
        if (!part.rows.empty()) table(part);
    }

private:
    static constexpr double k_wide = 595, k_high = 842, k_left = 48, k_edge = 54; // points

    void size(double points, bool bold) {
        size_ = points;
        cairo_select_font_face(to_, "sans-serif", CAIRO_FONT_SLANT_NORMAL,
                               bold ? CAIRO_FONT_WEIGHT_BOLD : CAIRO_FONT_WEIGHT_NORMAL);
        cairo_set_font_size(to_, points);
        cairo_set_source_rgb(to_, 0.15, 0.14, 0.12);
    }
    double leading() const { return size_ * 1.4; }
    void room_for(double points) {
        if (y_ + points < k_high - k_edge) return;
        cairo_show_page(to_);
        y_ = k_edge;
    }
    double width_of(const std::string& text) const {
        cairo_text_extents_t room;
        cairo_text_extents(to_, text.c_str(), &room);
        return room.x_advance;
    }
    /// Broken between words; a word that is too long by itself, anywhere between its characters.
    std::vector<std::string> lines_of(const std::string& text, double wide) const {
        std::vector<std::string> out(1);
        for (size_t at = 0; at < text.size();) {
            size_t end = text.find(' ', at);
            end = end == std::string::npos ? text.size() : end + 1;
            std::string word = text.substr(at, end - at);
            if (width_of(out.back() + word) > wide && !out.back().empty()) out.emplace_back();
            while (width_of(word) > wide && word.size() > 1) {
                size_t fits = 0;
                for (size_t i = 1; i < word.size(); ++i) {
                    if ((static_cast<unsigned char>(word[i]) & 0xC0) == 0x80) continue; // within a character
                    if (width_of(word.substr(0, i)) > wide) break;
                    fits = i;
                }
                if (fits == 0) break;
                out.back() = word.substr(0, fits);
                out.emplace_back();
                word.erase(0, fits);
            }
            out.back() += word;
            at = end;
        }
        return out;
    }
    void paragraph(const std::string& text, double x, double wide) {
        for (const std::string& one : lines_of(text, wide)) {
            room_for(leading());
            y_ += leading();
            cairo_move_to(to_, x, y_);
            cairo_show_text(to_, one.c_str());
        }
    }
    void line(const std::vector<Vec2>& points) {
        constexpr double k_tall = 90;
        room_for(k_tall + 10);
        cairo_set_source_rgb(to_, 0.12, 0.44, 0.39);
        cairo_set_line_width(to_, 1.2);
        cairo_new_path(to_); // words leave their end behind
        for (const Vec2& p : points)
            cairo_line_to(to_, k_left + p.x * (k_wide - 2 * k_left), y_ + 5 + k_tall * (1 - p.y));
        cairo_stroke(to_);
        y_ += k_tall + 10;
    }

    /// Each column as wide as it asks for, as far as there is room; the widest gives way.
    std::vector<double> widths_of(const ReportPart& part) {
        std::vector<double> out(part.columns.size(), 20);
        size(9, true);
        for (size_t i = 0; i < out.size(); ++i) out[i] = std::max(out[i], width_of(part.columns[i]) + 9);
        size(9, false);
        for (size_t i = 0; i < out.size(); ++i)
            for (const ReportPart::Row& row : part.rows)
                if (i < row.cells.size()) out[i] = std::max(out[i], width_of(row.cells[i]) + 9);
        double all = 0;
        for (const double one : out) all += one;
        if (const double over = all - (k_wide - 2 * k_left); over > 0 && !out.empty()) {
            double& widest = *std::max_element(out.begin(), out.end());
            widest = std::max(60.0, widest - over);
        }
        return out;
    }
    void table(const ReportPart& part) {
        const std::vector<double> widths = widths_of(part);
        size(9, true);
        cells(part.columns, widths);
        size(9, false);
        for (const ReportPart::Row& row : part.rows) cells(row.cells, widths);
    }
    void cells(const std::vector<std::string>& cells, const std::vector<double>& widths) {
        std::vector<std::vector<std::string>> lines;
        size_t most = 1;
        for (size_t i = 0; i < cells.size() && i < widths.size(); ++i) {
            lines.push_back(lines_of(cells[i], widths[i] - 8));
            most = std::max(most, lines.back().size());
        }
        room_for(leading() * double(most));
        double x = k_left;
        for (size_t i = 0; i < lines.size(); x += widths[i++])
            for (size_t k = 0; k < lines[i].size(); ++k) {
                cairo_move_to(to_, x, y_ + leading() * double(k + 1));
                cairo_show_text(to_, lines[i][k].c_str());
            }
        y_ += leading() * double(most);
    }

    cairo_t* to_;
    double y_ = k_edge, size_ = 9;
};

cairo_status_t append_page(void* to, const unsigned char* bytes, unsigned int count) {
    static_cast<std::string*>(to)->append(reinterpret_cast<const char*>(bytes), count);
    return CAIRO_STATUS_SUCCESS;
}

} // namespace

std::string html_of(const TestReport& report, const std::vector<std::string>& plans,
                    const Pictures& pictures) {
    const std::string title = escaped(report.title);
    std::string out = "<!DOCTYPE html>\n<html lang=\"en\">\n<head>\n<meta charset=\"utf-8\"/>\n<title>" +
                      title + "</title>\n<style>" + k_style + "</style>\n</head>\n<body>\n<h1>" + title +
                      "</h1>\n";
    for (const ReportPart& part : report.parts) out += html_of(part);
    if (!pictures.empty()) out += "<h2>Pictures of places</h2>\n";
    for (const auto& [what, png] : pictures)
        out += "<figure><img alt=\"" + escaped(what) + "\" src=\"data:image/png;base64," + base64_of(png) +
               "\"/><figcaption>" + escaped(what) + "</figcaption></figure>\n";
    if (!plans.empty()) out += "<h2>Plans</h2>\n";
    for (size_t i = 0; i < plans.size(); ++i) {
        // Without what only stands before a document of its own.
        const size_t begin = plans[i].find("<svg");
        if (begin != std::string::npos) out += with_own_ids(plans[i].substr(begin), i + 1) + "\n";
    }
    return out + "</body>\n</html>\n";
}

Result<std::string> pdf_of(const TestReport& report) {
    std::string text;
    using Surface = std::unique_ptr<cairo_surface_t, void (*)(cairo_surface_t*)>;
    using Context = std::unique_ptr<cairo_t, void (*)(cairo_t*)>;
    const Surface surface(cairo_pdf_surface_create_for_stream(append_page, &text, 595, 842),
                          cairo_surface_destroy);
    // The same level makes the same file, whenever it is made.
    cairo_pdf_surface_set_metadata(surface.get(), CAIRO_PDF_METADATA_CREATE_DATE, "2000-01-01T00:00:00Z");
    cairo_pdf_surface_set_metadata(surface.get(), CAIRO_PDF_METADATA_TITLE, report.title.c_str());
    {
        const Context context(cairo_create(surface.get()), cairo_destroy);
        Pages pages(context.get());
        pages.title(report.title);
        for (const ReportPart& part : report.parts) pages.part(part);
        cairo_show_page(context.get());
    }
    cairo_surface_finish(surface.get());
    if (const auto status = cairo_surface_status(surface.get()); status != CAIRO_STATUS_SUCCESS)
        return fail("plan.drawing", "report", cairo_status_to_string(status));
    return text;
}

} // namespace rubble::parcel
