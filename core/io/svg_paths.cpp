#include "io/svg_paths.h"

#include <algorithm>
#include <cmath>
#include <cstdlib>
#include <cstring>
#include <optional>
#include <set>

#include <tinyxml2.h>

#include "base/angle.h"

namespace rubble::io {

namespace {

using tinyxml2::XMLElement;

constexpr size_t k_most_points = 1000000;
constexpr int k_deepest = 200; ///< groups in groups

/// p → (a c e; b d f) p, as SVG writes it.
struct Turn {
    double a = 1, b = 0, c = 0, d = 1, e = 0, f = 0;
    Vec2 operator()(Vec2 p) const { return {a * p.x + c * p.y + e, b * p.x + d * p.y + f}; }
    Turn after(const Turn& first) const { // this one, of what `first` gives
        return {a * first.a + c * first.b, b * first.a + d * first.b,     a * first.c + c * first.d,
                b * first.c + d * first.d, a * first.e + c * first.f + e, b * first.e + d * first.f + f};
    }
};

/// Reads numbers one after the other, with commas or spaces between or nothing ("1-2.5.5").
class Numbers {
public:
    explicit Numbers(const char* text) : at_(text) {}
    void skip() {
        while (*at_ && (std::isspace(static_cast<unsigned char>(*at_)) || *at_ == ',')) ++at_;
    }
    bool more() {
        skip();
        return *at_ && (std::isdigit(static_cast<unsigned char>(*at_)) || std::strchr("+-.", *at_));
    }
    std::optional<double> next() {
        skip();
        const char* end = at_;
        if (*end == '+' || *end == '-') ++end;
        const char* digits = end;
        while (std::isdigit(static_cast<unsigned char>(*end))) ++end;
        if (*end == '.')
            for (++end; std::isdigit(static_cast<unsigned char>(*end));) ++end;
        if (end == digits || (end == digits + 1 && *digits == '.')) return {};
        if ((*end == 'e' || *end == 'E') &&
            (std::isdigit(static_cast<unsigned char>(end[1])) ||
             ((end[1] == '+' || end[1] == '-') && std::isdigit(static_cast<unsigned char>(end[2])))))
            for (end += 2; std::isdigit(static_cast<unsigned char>(*end));) ++end;
        const double value = std::strtod(std::string(at_, end).c_str(), nullptr);
        at_ = end;
        if (!std::isfinite(value) || std::abs(value) > 1e9) return {};
        return value;
    }
    /// Of an arc: a single digit, which needs nothing after it.
    std::optional<bool> flag() {
        skip();
        if (*at_ != '0' && *at_ != '1') return {};
        return *at_++ == '1';
    }
    std::optional<char> letter() {
        skip();
        if (!std::isalpha(static_cast<unsigned char>(*at_))) return {};
        return *at_++;
    }
    bool at_end() {
        skip();
        return !*at_;
    }

private:
    const char* at_;
};

std::optional<Turn> turn_from(const char* text) {
    Turn all;
    std::string rest = text ? text : "";
    for (size_t at = 0; (at = rest.find_first_not_of(" \t\n\r,", at)) != std::string::npos;) {
        const size_t open = rest.find('(', at), close = rest.find(')', at);
        if (open == std::string::npos || close == std::string::npos || close < open) return {};
        std::string kind = rest.substr(at, open - at);
        kind.erase(std::remove_if(kind.begin(), kind.end(), ::isspace), kind.end());
        const std::string inner = rest.substr(open + 1, close - open - 1);
        Numbers numbers(inner.c_str());
        std::vector<double> v;
        while (const auto value = numbers.next()) v.push_back(*value);
        Turn one;
        if (kind == "matrix" && v.size() == 6)
            one = {v[0], v[1], v[2], v[3], v[4], v[5]};
        else if (kind == "translate" && (v.size() == 1 || v.size() == 2))
            one.e = v[0], one.f = v.size() == 2 ? v[1] : 0;
        else if (kind == "scale" && (v.size() == 1 || v.size() == 2))
            one.a = v[0], one.d = v.size() == 2 ? v[1] : v[0];
        else if (kind == "rotate" && (v.size() == 1 || v.size() == 3)) {
            const double cos = std::cos(radians(v[0])), sin = std::sin(radians(v[0]));
            one = {cos, sin, -sin, cos, 0, 0};
            if (v.size() == 3)
                one = Turn{1, 0, 0, 1, v[1], v[2]}.after(one.after({1, 0, 0, 1, -v[1], -v[2]}));
        } else if (kind == "skewX" && v.size() == 1)
            one.c = std::tan(radians(v[0]));
        else if (kind == "skewY" && v.size() == 1)
            one.b = std::tan(radians(v[0]));
        else
            return {};
        all = all.after(one);
        at = close + 1;
    }
    return all;
}

/// A length with its unit: how many of the drawing's units, and how many metres where that is said.
struct Length {
    double value = 0, metres = 0;
};
std::optional<Length> length_from(const char* text) {
    if (!text) return {};
    Numbers numbers(text);
    const auto value = numbers.next();
    if (!value) return {};
    const char* unit = text + std::strcspn(text, "abcdefghijklmnopqrstuvwxyz%");
    const std::pair<const char*, double> units[] = {{"mm", 0.001},  {"cm", 0.01},        {"m", 1},
                                                    {"in", 0.0254}, {"pt", 0.0254 / 72}, {"pc", 0.0254 / 6}};
    for (const auto& [name, metres] : units)
        if (std::strcmp(unit, name) == 0) return Length{*value, *value * metres};
    return Length{*value, 0};
}

/// Draws the lines of one shape.
class Pen {
public:
    Pen(SvgDrawing& to, const Turn& turn, std::string name, int shape)
        : to_(to),
          turn_(turn),
          name_(std::move(name)),
          shape_(shape) {}

    void move_to(Vec2 p) {
        end(false);
        begin_ = at_ = p;
        points_ = {turn_(p)};
    }
    void line_to(Vec2 p) {
        if (points_.empty()) points_ = {turn_(at_)};
        at_ = p;
        points_.push_back(turn_(p));
    }
    void curve_to(Vec2 b, Vec2 c, Vec2 d) {
        const Vec2 a = at_;
        for (int i = 1; i <= k_pieces; ++i) {
            const double t = double(i) / k_pieces, s = 1 - t;
            line_to(a * (s * s * s) + b * (3 * s * s * t) + c * (3 * s * t * t) + d * (t * t * t));
        }
    }
    void curve_to(Vec2 b, Vec2 c) {
        const Vec2 a = at_;
        for (int i = 1; i <= k_pieces; ++i) {
            const double t = double(i) / k_pieces, s = 1 - t;
            line_to(a * (s * s) + b * (2 * s * t) + c * (t * t));
        }
    }
    /// By its ends, as SVG 1.1 says in F.6.
    void arc_to(Vec2 radii, double turn_deg, bool large, bool sweep, Vec2 to) {
        const Vec2 from = at_;
        radii = glm::abs(radii);
        if (radii.x < 1e-12 || radii.y < 1e-12 || from == to) return line_to(to);
        const double cos = std::cos(radians(turn_deg)), sin = std::sin(radians(turn_deg));
        const Vec2 half = (from - to) * 0.5, p(cos * half.x + sin * half.y, -sin * half.x + cos * half.y);
        const double over = p.x * p.x / (radii.x * radii.x) + p.y * p.y / (radii.y * radii.y);
        if (over > 1) radii *= std::sqrt(over);
        const double rx2 = radii.x * radii.x, ry2 = radii.y * radii.y;
        const double under = rx2 * p.y * p.y + ry2 * p.x * p.x;
        const double factor = (large == sweep ? -1 : 1) *
                              std::sqrt(std::max(0.0, (rx2 * ry2 - under) / std::max(under, 1e-300)));
        const Vec2 c(factor * radii.x * p.y / radii.y, -factor * radii.y * p.x / radii.x);
        const Vec2 middle = Vec2(cos * c.x - sin * c.y, sin * c.x + cos * c.y) + (from + to) * 0.5;
        const double begin = std::atan2((p.y - c.y) / radii.y, (p.x - c.x) / radii.x);
        double angle = std::atan2((-p.y - c.y) / radii.y, (-p.x - c.x) / radii.x) - begin;
        if (sweep && angle < 0) angle += radians(360);
        if (!sweep && angle > 0) angle -= radians(360);
        const int pieces = std::max(2, int(std::ceil(std::abs(angle) / radians(15))));
        for (int i = 1; i < pieces; ++i) {
            const double t = begin + angle * i / pieces;
            const Vec2 q(radii.x * std::cos(t), radii.y * std::sin(t));
            line_to(middle + Vec2(cos * q.x - sin * q.y, sin * q.x + cos * q.y));
        }
        line_to(to);
    }
    void close() { end(true); }
    void end(bool closed) {
        // Said to be closed or drawn back to where it began.
        std::vector<Vec2> points;
        for (const Vec2& p : points_)
            if (points.empty() || glm::length(p - points.back()) > 1e-9) points.push_back(p);
        if (points.size() > 2 && glm::length(points.front() - points.back()) <= 1e-9)
            points.pop_back(), closed = true;
        if (points.size() >= 2) to_.paths.push_back({name_, std::move(points), closed, shape_});
        points_.clear();
        at_ = begin_;
    }
    Vec2 at() const { return at_; }

private:
    static constexpr int k_pieces = 12; ///< of a curve
    SvgDrawing& to_;
    const Turn& turn_;
    const std::string name_;
    const int shape_;
    Vec2 begin_{0}, at_{0};
    std::vector<Vec2> points_;
};

/// False where the text is damaged: what came before counts, as the standard wants.
bool draw_path(Pen& pen, const char* text) {
    Numbers in(text);
    char command = 0, before = 0;
    Vec2 control(0); // of the curve before, for those that go on smoothly
    while (!in.at_end()) {
        if (const auto letter = in.letter())
            command = *letter;
        else if (!command || !in.more())
            return false;
        const bool relative = std::islower(static_cast<unsigned char>(command));
        const Vec2 origin = relative ? pen.at() : Vec2(0);
        const auto point = [&]() -> std::optional<Vec2> {
            const auto x = in.next(), y = in.next();
            if (!x || !y) return {};
            return origin + Vec2(*x, *y);
        };
        const char kind = char(std::toupper(static_cast<unsigned char>(command)));
        Vec2 next_control = control;
        switch (kind) {
        case 'M': {
            const auto p = point();
            if (!p) return false;
            pen.move_to(*p);
            command = relative ? 'l' : 'L'; // what follows are lines
            break;
        }
        case 'L': {
            const auto p = point();
            if (!p) return false;
            pen.line_to(*p);
            break;
        }
        case 'H':
        case 'V': {
            const auto v = in.next();
            if (!v) return false;
            Vec2 p = pen.at();
            (kind == 'H' ? p.x : p.y) = *v + (kind == 'H' ? origin.x : origin.y);
            pen.line_to(p);
            break;
        }
        case 'C':
        case 'S': {
            std::optional<Vec2> b = pen.at();
            if (kind == 'C')
                b = point();
            else if (before == 'C' || before == 'S')
                b = pen.at() * 2.0 - control;
            const auto c = point(), d = point();
            if (!b || !c || !d) return false;
            pen.curve_to(*b, *c, *d);
            next_control = *c;
            break;
        }
        case 'Q':
        case 'T': {
            std::optional<Vec2> b = pen.at();
            if (kind == 'Q')
                b = point();
            else if (before == 'Q' || before == 'T')
                b = pen.at() * 2.0 - control;
            const auto c = point();
            if (!b || !c) return false;
            pen.curve_to(*b, *c);
            next_control = *b;
            break;
        }
        case 'A': {
            const auto rx = in.next(), ry = in.next(), turn = in.next();
            const auto large = in.flag(), sweep = in.flag();
            const auto p = point();
            if (!rx || !ry || !turn || !large || !sweep || !p) return false;
            pen.arc_to({*rx, *ry}, *turn, *large, *sweep, *p);
            break;
        }
        case 'Z':
            pen.close();
            command = 0;
            break;
        default:
            return false;
        }
        before = kind, control = next_control;
    }
    return true;
}

class Reading {
public:
    SvgDrawing run(const XMLElement& root) {
        walk(root, {}, 0);
        return std::move(drawing_);
    }
    bool too_many() const { return points_ > k_most_points; }

private:
    static double number(const XMLElement& of, const char* name) {
        const auto length = length_from(of.Attribute(name));
        return length ? length->value : 0;
    }
    void left_out(const std::string& what) {
        if (told_.insert(what).second) drawing_.remarks.push_back(what + " is left out.");
    }

    void walk(const XMLElement& element, const Turn& outer, int depth) {
        if (depth > k_deepest)
            return left_out("What lies deeper than " + std::to_string(k_deepest) + " groups");
        const auto own = turn_from(element.Attribute("transform"));
        if (!own) left_out("A transform that is not understood");
        const Turn turn = outer.after(own.value_or(Turn{}));
        const char* display = element.Attribute("display");
        if (display && std::strcmp(display, "none") == 0) return;
        draw(element, turn);
        for (const XMLElement* inner = element.FirstChildElement(); inner && !too_many();
             inner = inner->NextSiblingElement()) {
            const std::string kind = local(inner->Name());
            if (kind == "defs" || kind == "symbol" || kind == "clipPath" || kind == "mask" ||
                kind == "pattern" || kind == "marker")
                continue;
            walk(*inner, turn, depth + 1);
        }
    }
    static std::string local(const char* name) {
        const char* colon = std::strrchr(name, ':');
        return colon ? colon + 1 : name;
    }

    void draw(const XMLElement& element, const Turn& turn) {
        const std::string kind = local(element.Name());
        const size_t before = drawing_.paths.size();
        const char* id = element.Attribute("id");
        Pen pen(drawing_, turn, id ? id : "", ++shape_);
        if (kind == "path") {
            const char* d = element.Attribute("d");
            if (d && !draw_path(pen, d)) left_out("What follows a damaged place of a path");
            pen.end(false);
        } else if (kind == "rect") {
            const Vec2 at(number(element, "x"), number(element, "y")),
                size(number(element, "width"), number(element, "height"));
            if (size.x <= 0 || size.y <= 0) return;
            pen.move_to(at), pen.line_to(at + Vec2(size.x, 0)), pen.line_to(at + size);
            pen.line_to(at + Vec2(0, size.y)), pen.close();
        } else if (kind == "circle" || kind == "ellipse") {
            const bool circle = kind == "circle";
            const Vec2 at(number(element, "cx"), number(element, "cy")),
                radii(number(element, circle ? "r" : "rx"), number(element, circle ? "r" : "ry"));
            if (radii.x <= 0 || radii.y <= 0) return;
            pen.move_to(at + Vec2(radii.x, 0));
            pen.arc_to(radii, 0, false, true, at - Vec2(radii.x, 0));
            pen.arc_to(radii, 0, false, true, at + Vec2(radii.x, 0));
            pen.close();
        } else if (kind == "line") {
            pen.move_to({number(element, "x1"), number(element, "y1")});
            pen.line_to({number(element, "x2"), number(element, "y2")}), pen.end(false);
        } else if (kind == "polyline" || kind == "polygon") {
            const char* text = element.Attribute("points");
            Numbers numbers(text ? text : "");
            bool begun = false;
            while (numbers.more()) {
                const auto x = numbers.next(), y = numbers.next();
                if (!x || !y) break;
                begun ? pen.line_to({*x, *y}) : pen.move_to({*x, *y});
                begun = true;
            }
            pen.end(kind == "polygon" && begun);
        } else if (kind == "text" || kind == "image" || kind == "use") {
            left_out(kind == "text" ? "Text" : kind == "image" ? "A picture" : "What is used from elsewhere");
        }
        for (size_t i = before; i < drawing_.paths.size(); ++i) {
            points_ += drawing_.paths[i].points.size();
            for (Vec2& p : drawing_.paths[i].points) p.y = -p.y; // drawings have y down
        }
    }

    SvgDrawing drawing_;
    std::set<std::string> told_;
    size_t points_ = 0;
    int shape_ = 0;
};

} // namespace

Result<SvgDrawing> svg_from_text(const std::string& text, const std::string& place) {
    tinyxml2::XMLDocument document;
    if (document.Parse(text.c_str(), text.size()) != tinyxml2::XML_SUCCESS)
        return fail("svg.syntax", place + ":" + std::to_string(std::max(document.ErrorLineNum(), 1)),
                    "This is no well-formed XML. Save the drawing again as plain SVG.");
    const XMLElement* root = document.RootElement();
    if (!root || !std::string(root->Name()).ends_with("svg"))
        return fail("svg.syntax", place, "This is XML, but no SVG drawing.");
    Reading reading;
    SvgDrawing drawing = reading.run(*root);
    if (reading.too_many())
        return fail("svg.size", place, "The drawing has more than a million points. Simplify its paths.");
    const auto width = length_from(root->Attribute("width")), height = length_from(root->Attribute("height"));
    drawing.size = {width ? width->value : 0, height ? height->value : 0};
    if (const char* box = root->Attribute("viewBox")) {
        Numbers numbers(box);
        const auto x = numbers.next(), y = numbers.next(), w = numbers.next(), h = numbers.next();
        if (x && y && w && h && *w > 0 && *h > 0) {
            drawing.size = {*w, *h};
            if (width && width->metres > 0) drawing.metres_per_unit = width->metres / *w;
        }
    } else if (width && width->metres > 0 && width->value > 0) {
        drawing.metres_per_unit = 0.0254 / 96; // units are pixels of the standard then
    }
    return drawing;
}

} // namespace rubble::io
