"""What is shown: styled text, its width, its layout, and the difference of two frames as ECMA-48. Pure."""
