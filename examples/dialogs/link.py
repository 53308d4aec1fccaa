"""Connect to a telescope: what does not answer leads back to the question, with everything that was typed."""

from wesperon import Complaint, Form, fill, slot

ANSWERING = {("dome", 4030): "dome of Hollin Ridge", ("mast", 4031): "weather mast"}
tried: list[tuple[str, int]] = []


class Link(Form):
    """Connect to a telescope."""

    host = slot("Which host?", suggest=sorted({host for host, _ in ANSWERING}))
    port = slot(int, "Which port?", initial=4030, low=1024, high=65535)
    secure = slot(bool, "Encrypted?", default=True)

    def check(self) -> None:
        """Try it: what fails is asked again."""
        tried.append((self.host, self.port))
        if self.host not in {host for host, _ in ANSWERING}:
            raise Complaint("there is no such host", slot="host")
        if (self.host, self.port) not in ANSWERING:
            raise Complaint("nobody answers there", slot="port")


link = fill(Link)
print(f"connected to the {ANSWERING[link.host, link.port]}, at try {len(tried)}")
