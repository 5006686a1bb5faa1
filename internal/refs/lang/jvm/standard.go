package jvm

import "dicaxon/internal/refs/lang"

// Standard holds the packages that Java exports, as "java --describe-module" tells of java.base, java.sql,
// java.net.http, java.logging, java.desktop and java.xml of Java 17, and those of Kotlin's standard library
// and of its tests (https://kotlinlang.org/api/core/).
var Standard = lang.SetOf(`
java.applet java.awt java.awt.color java.awt.desktop java.awt.dnd java.awt.event java.awt.font java.awt.geom
java.awt.im java.awt.im.spi java.awt.image java.awt.image.renderable java.awt.print java.beans java.beans.beancontext
java.io java.lang java.lang.annotation java.lang.constant java.lang.invoke java.lang.module java.lang.ref
java.lang.reflect java.lang.runtime java.math java.net java.net.http java.net.spi java.nio java.nio.channels
java.nio.channels.spi java.nio.charset java.nio.charset.spi java.nio.file java.nio.file.attribute java.nio.file.spi
java.security java.security.cert java.security.interfaces java.security.spec java.sql java.text java.text.spi
java.time java.time.chrono java.time.format java.time.temporal java.time.zone java.util java.util.concurrent
java.util.concurrent.atomic java.util.concurrent.locks java.util.function java.util.jar java.util.logging
java.util.random java.util.regex java.util.spi java.util.stream java.util.zip javax.accessibility javax.crypto
javax.crypto.interfaces javax.crypto.spec javax.imageio javax.imageio.event javax.imageio.metadata
javax.imageio.plugins.bmp javax.imageio.plugins.jpeg javax.imageio.plugins.tiff javax.imageio.spi
javax.imageio.stream javax.net javax.net.ssl javax.print javax.print.attribute javax.print.attribute.standard
javax.print.event javax.security.auth javax.security.auth.callback javax.security.auth.login javax.security.auth.spi
javax.security.auth.x500 javax.security.cert javax.sound.midi javax.sound.midi.spi javax.sound.sampled
javax.sound.sampled.spi javax.sql javax.swing javax.swing.border javax.swing.colorchooser javax.swing.event
javax.swing.filechooser javax.swing.plaf javax.swing.plaf.basic javax.swing.plaf.metal javax.swing.plaf.multi
javax.swing.plaf.nimbus javax.swing.plaf.synth javax.swing.table javax.swing.text javax.swing.text.html
javax.swing.text.html.parser javax.swing.text.rtf javax.swing.tree javax.swing.undo javax.xml javax.xml.catalog
javax.xml.datatype javax.xml.namespace javax.xml.parsers javax.xml.stream javax.xml.stream.events
javax.xml.stream.util javax.xml.transform javax.xml.transform.dom javax.xml.transform.sax javax.xml.transform.stax
javax.xml.transform.stream javax.xml.validation javax.xml.xpath kotlin kotlin.collections kotlin.comparisons
kotlin.concurrent kotlin.coroutines kotlin.io kotlin.io.path kotlin.math kotlin.properties kotlin.random
kotlin.ranges kotlin.reflect kotlin.sequences kotlin.system kotlin.test kotlin.text kotlin.time`)
