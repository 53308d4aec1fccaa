"""The commands of the modal family on a text: motions, objects, operators, registers, selections. Pure."""
