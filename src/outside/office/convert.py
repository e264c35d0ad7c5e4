"""
Turns documents into PDF by an office program that is kept running.

Started as `convert.py PROFILE`, with a folder of its own for the program's profile. Each line on standard input is one
thing to do, as JSON: {"in": path of a DOCX, "out": path of the PDF, "most": pages}. Each gets one line back:
{"ok": true, "pages": n} or {"ok": false, "why": "..."}; before the first, {"ready": true}. Ends with its input.
"""
import json
import os
import subprocess
import sys
import time
from urllib.parse import quote

import uno
from com.sun.star.beans import PropertyValue


def value(name, of):
    v = PropertyValue()
    v.Name = name
    v.Value = of
    return v


def url(path):
    return "file://" + quote(os.path.abspath(path))


def say(what):
    sys.stdout.write(json.dumps(what) + "\n")
    sys.stdout.flush()


def start(profile):
    pipe = "cobble%d" % os.getpid()
    program = subprocess.Popen(
        [
            "soffice",
            "--headless",
            "--invisible",
            "--norestore",
            "--nolockcheck",
            "--nodefault",
            "--nologo",
            "-env:UserInstallation=" + url(profile),
            "--accept=pipe,name=%s;urp;" % pipe,
        ],
        stdin=subprocess.DEVNULL,
        stdout=subprocess.DEVNULL,
        stderr=subprocess.DEVNULL,
    )
    local = uno.getComponentContext()
    resolver = local.ServiceManager.createInstanceWithContext("com.sun.star.bridge.UnoUrlResolver", local)
    until = time.monotonic() + 60
    while True:
        try:
            context = resolver.resolve("uno:pipe,name=%s;urp;StarOffice.ComponentContext" % pipe)
            return program, context.ServiceManager.createInstanceWithContext("com.sun.star.frame.Desktop", context)
        except Exception:
            if program.poll() is not None or time.monotonic() > until:
                raise
            time.sleep(0.1)


def convert(desktop, task):
    document = desktop.loadComponentFromURL(
        url(task["in"]),
        "_blank",
        0,
        (
            # As nothing else: what is no DOCX is not guessed at.
            value("FilterName", "MS Word 2007 XML"),
            value("Hidden", True),
            value("ReadOnly", True),
            # Never run, nor read from elsewhere.
            value("MacroExecutionMode", 0),
            value("UpdateDocMode", 0),
        ),
    )
    if document is None:
        return {"ok": False, "why": "unreadable"}
    try:
        # Laid out to its end first: without, only what has been laid out by then is counted.
        cursor = document.getCurrentController().getViewCursor()
        cursor.jumpToLastPage()
        pages = cursor.getPage()
        if pages > task["most"]:
            return {"ok": False, "why": "long", "pages": pages}
        options = uno.Any(
            "[]com.sun.star.beans.PropertyValue",
            (
                # So that it can be read aloud.
                value("UseTaggedPDF", True),
                value("ExportBookmarks", True),
            ),
        )
        document.storeToURL(url(task["out"]), (value("FilterName", "writer_pdf_Export"), value("FilterData", options)))
        return {"ok": True, "pages": pages}
    finally:
        document.close(True)


def main():
    program, desktop = start(sys.argv[1])
    say({"ready": True})
    for line in sys.stdin:
        try:
            say(convert(desktop, json.loads(line)))
        except Exception as e:
            say({"ok": False, "why": "failed", "error": str(e)})
            if program.poll() is not None:
                break
    program.kill()


main()
