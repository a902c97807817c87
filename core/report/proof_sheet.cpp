#include "core/report/proof_sheet.hpp"

namespace gc {

namespace {

std::string escaped(const std::string& text) {
    std::string out;
    for (const char c : text) switch (c) {
        case '&':
            out += "&amp;";
            break;
        case '<':
            out += "&lt;";
            break;
        case '>':
            out += "&gt;";
            break;
        case '"':
            out += "&quot;";
            break;
        default:
            out += c;
            break;
        }
    return out;
}

} // namespace

std::string proofSheetHtml(const ProofSheet& s) {
    std::string h =
        "<!DOCTYPE html>\n<html lang=\"en\"><head><meta charset=\"utf-8\"><title>" + escaped(s.part) +
        ": proof "
        "sheet</title>\n<style>body{font-family:Manrope,sans-serif;color:#1F2B33;margin:28px;max-width:820px}"
        "h1{font-size:22px}h2{font-size:15px}td,th{padding:4px 10px;text-align:left;font-size:12px}"
        "p,li{font-size:12px}img{max-width:46%;margin-right:2%}</style></head>\n<body>\n";
    h += "<h1>" + escaped(s.part) + ": proof sheet</h1>\n<p>" + escaped(s.purpose) + "</p>\n<p>" +
         escaped(s.process) + ", " + escaped(s.material) + ". Measured " + escaped(s.date) + ".</p>\n";
    h += "<table cellspacing=\"0\" border=\"0\" "
         "width=\"100%\"><tr><th></th><th>claim</th><th>measured</th><th>allowed</th><th>where</th></tr>\n";
    for (const ProofRow& r : s.rows)
        h += "<tr><td>" + escaped(r.sign) + "</td><td>" + escaped(r.claim) + "</td><td><b>" +
             escaped(r.measured) + "</b></td><td>" + escaped(r.allowed) + "</td><td>" + escaped(r.where) +
             "</td></tr>\n";
    h += "</table>\n";
    if (!s.pictures.empty()) {
        h += "<h2>Pictures</h2>\n<table border=\"0\"><tr>";
        for (const ProofPicture& p : s.pictures)
            h += "<td><img width=\"300\" src=\"data:image/png;base64," + p.pngBase64 + "\"><br>" +
                 escaped(p.caption) + "</td>";
        h += "</tr></table>\n";
    }
    h += "<h2>Build sheet</h2>\n<ol>\n";
    for (const std::string& t : s.sentences) h += "<li>" + escaped(t) + "</li>\n";
    h += "</ol>\n<h2>Caution</h2>\n<p>" + escaped(s.caution) +
         "</p>\n<p>This sheet records measurements. It is no promise that the part is safe or fit for its "
         "use: follow local rules, "
         "standards and licensed practice.</p>\n</body></html>\n";
    return h;
}

} // namespace gc
